import { describe, expect, test } from "@jest/globals";
import { addFaceItem, newInstrument, setParam, setParams, setSource } from "../../../core/instrument";
import { movedBetween } from "./listen";

describe("what was moved", () => {
  const doc = newInstrument("i", "I");
  test("is found by its value, of several the first; other edits move nothing", () => {
    const level = "layers/main/strip/level";
    expect(movedBetween(doc, setParam(doc, level, -20).apply(doc))).toBe(level);
    expect(movedBetween(doc, addFaceItem({ id: "d", kind: "dial" }).apply(doc))).toBeNull();
    expect(movedBetween(doc, doc)).toBeNull();
    // A cell of a table that nothing names yet.
    const partials = setSource("main", "partials").apply(doc);
    const cell = "layers/main/source/rows/3/level";
    expect(movedBetween(partials, setParam(partials, cell, -30).apply(partials))).toBe(cell);
  });
  test("several values are one edit; those of one gesture with the same name go together", () => {
    const changes = [
      ["layers/main/strip/level", -20],
      ["layers/main/strip/pan", 0.5],
    ] as const;
    const edit = setParams(doc, changes, "item d");
    expect([edit.name, edit.merge]).toEqual(["Set 2 values", "item d"]);
    const next = edit.apply(doc);
    expect(next.layers[0]?.strip.params).toMatchObject({ level: -20, pan: 0.5 });
    const single = setParams(doc, [changes[0]], changes[0][0]);
    expect(single.merge).toBe(changes[0][0]);
    expect(() => setParams(doc, [["nowhere", 1]], "x")).toThrow(RangeError);
    expect(setParams(doc, [], "x").apply(doc)).toBe(doc);
  });
});
