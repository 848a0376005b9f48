import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { blendLevels, blendPlace } from "./blend";

const share = fc.double({ min: 0, max: 1, noNaN: true });

describe("layers that are blended", () => {
  test("two neighbours at a time, the same power throughout, and the place is found again", () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 8 }), share, (count, place) => {
        const levels = blendLevels(count, place);
        const gains = levels.map((level) => (level <= -60 ? 0 : 10 ** (level / 20)));
        expect(gains.filter((g) => g > 0).length).toBeLessThanOrEqual(2);
        expect(gains.reduce((sum, g) => sum + g * g, 0)).toBeCloseTo(1, 5);
        expect(Math.abs(blendPlace(levels) - place) * (count - 1)).toBeLessThan(0.001);
      }),
      { seed: 3 },
    );
    expect(blendLevels(3, 0.5)).toEqual([-60, 0, -60]);
    expect([blendPlace([]), blendPlace([-6]), blendPlace([-60, -60])]).toEqual([0, 0, 0]);
  });
});
