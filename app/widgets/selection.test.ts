import { expect, test } from "@jest/globals";
import { type Choosing, selectionAfter } from "./selection";

const ORDER = ["hub", "rim", "spoke", "bell", "chain"];
const after = (before: readonly string[], id: string, how: Choosing) => [
  ...selectionAfter(new Set(before), id, how, ORDER),
];

test("one press selects that alone, also where more were selected", () => {
  expect(after([], "rim", "")).toEqual(["rim"]);
  expect(after(["hub", "rim", "bell"], "rim", "")).toEqual(["rim"]);
  expect(after(["hub", "bell"], "chain", "menu")).toEqual(["chain"]);
});

test("one more joins the others, and leaves them again", () => {
  expect(after(["hub"], "bell", "one")).toEqual(["hub", "bell"]);
  expect(after(["hub", "bell"], "hub", "one")).toEqual(["bell"]);
});

test("a range goes from what was chosen last, in either direction, and keeps what was selected", () => {
  expect(after(["hub", "rim"], "bell", "range")).toEqual(["hub", "rim", "spoke", "bell"]);
  expect(after(["chain"], "spoke", "range")).toEqual(["chain", "spoke", "bell"]);
});

test("a range from what isn't shown any more, or from nothing, is one", () => {
  expect(after(["saddle"], "spoke", "range")).toEqual(["saddle", "spoke"]);
  expect(after([], "spoke", "range")).toEqual(["spoke"]);
});

test("a range begins at what is still shown, though something that was joined away was selected after it", () => {
  expect(after(["hub", "saddle"], "spoke", "range")).toEqual(["hub", "saddle", "rim", "spoke"]);
});
