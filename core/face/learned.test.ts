import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { readLearned, withLearned } from "./learned";

test("a controller moves one thing, a thing is moved by one controller; the last word counts", () => {
  const a = withLearned([], { controller: 20, address: "macros/a/value" });
  const b = withLearned(a, { controller: 21, address: "macros/b/value" });
  expect(withLearned(b, { controller: 20, address: "macros/b/value" })).toEqual([
    { controller: 20, address: "macros/b/value" },
  ]);
});

test("what was kept is read again; anything else is nothing", () => {
  const list = [{ controller: 0, address: "x" }];
  expect(readLearned(JSON.stringify(list))).toEqual(list);
  expect(
    readLearned(JSON.stringify([{ controller: 128, address: "x" }, { controller: 1.5, address: "x" }, 7, null])),
  ).toEqual([]);
  fc.assert(
    fc.property(fc.oneof(fc.string(), fc.json()), (text) => {
      expect(Array.isArray(readLearned(text))).toBe(true);
    }),
    { seed: 2 },
  );
});
