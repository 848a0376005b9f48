import { expect, test } from "@jest/globals";
import { HANDS_FREE, settleHandsFree } from "./hands-free";

test("settings from outside are kept within their limits, and are the usual ones where they say nothing", () => {
  expect(settleHandsFree({ threshold: 8, quiet: 2, longest: 60, tolerance: 0 })).toEqual({
    threshold: 8,
    quiet: 2,
    longest: 60,
    tolerance: 0,
  });
  expect(settleHandsFree({ threshold: -5, quiet: 1e9, longest: Number.NaN, tolerance: "much" })).toEqual({
    threshold: 3,
    quiet: 10,
    longest: HANDS_FREE.longest,
    tolerance: HANDS_FREE.tolerance,
  });
  for (const raw of [null, 3, "x", [], undefined]) expect(settleHandsFree(raw)).toEqual(HANDS_FREE);
});
