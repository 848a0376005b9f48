import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { passes } from "./conditions";

const _share = fc.double({ min: 0, max: 1, noNaN: true });

test("a test holds at its place and above, below it, or from there up to another, either way round", () => {
  const at = { share: 0.5, upTo: 0.75 };
  const hold = (is: "above" | "below" | "between", of = at) =>
    [0.4, 0.5, 0.75, 0.8].map((t) => passes({ is, ...of }, t));
  expect(hold("above")).toEqual([false, true, true, true]);
  expect(hold("below")).toEqual([true, false, false, false]);
  expect(hold("between")).toEqual([false, true, true, false]);
  expect(hold("between", { share: 0.75, upTo: 0.5 })).toEqual([false, true, true, false]);
});
