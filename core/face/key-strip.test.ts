import { describe, expect, test } from "@jest/globals";
import { keyUnder, stripKeys } from "./key-strip";

describe("a strip of keys", () => {
  test("white keys lie side by side over the whole width, black ones where they meet; lower is harder", () => {
    const keys = stripKeys(48, 60);
    const whites = keys.filter((k) => !k.black);
    expect(whites).toHaveLength(8);
    expect([whites[0]?.from, whites.at(-1)?.to]).toEqual([0, 1]);
    for (const black of keys.filter((k) => k.black))
      expect(whites.some((w) => Math.abs(w.from - (black.from + black.to) / 2) < 1e-9)).toBe(true);
    expect(keyUnder(keys, 0.125, 0.3)).toEqual({ key: 49, strength: expect.closeTo(0.48, 2) });
    expect(keyUnder(keys, 0.125, 0.9)).toEqual({ key: 50, strength: 0.9 });
    expect(keyUnder(keys, 0.02, 2)).toEqual({ key: 48, strength: 1 });
    expect(keyUnder(keys, 1.2, 0.5)).toBeNull();
    expect(stripKeys(49, 49)).toEqual([]);
  });
});
