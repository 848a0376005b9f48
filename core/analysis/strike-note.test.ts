import { describe, expect, test } from "@jest/globals";
import { hertzOf } from "../audio";
import { strikeNotes } from "./strike-note";

describe("strike notes", () => {
  const bell = (strike: number, ratios: readonly (readonly [number, number])[]) =>
    ratios.map(([ratio, level]) => ({ frequency: hertzOf(strike) * ratio, level })).sort((a, b) => b.level - a.level);

  test("a bell's strike note is found by its series, whatever partial is loudest", () => {
    const church = [
      [0.5, 0.4],
      [1, 0.7],
      [1.2, 0.6],
      [1.5, 0.2],
      [2, 1],
      [3, 0.3],
      [4.1, 0.2],
    ] as const;
    expect(strikeNotes(bell(64, church))[0]?.note).toBeCloseTo(64, 1);
    const loudHum = church.map(([r, l]) => [r, r === 0.5 ? 2 : l] as const);
    const candidates = strikeNotes(bell(70.3, loudHum));
    expect(candidates[0]?.note).toBeCloseTo(70.3, 1);
    expect(candidates.length).toBeGreaterThan(1);
    expect(strikeNotes([])).toEqual([]);
  });
});
