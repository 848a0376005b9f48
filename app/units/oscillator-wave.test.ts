import { describe, expect, test } from "@jest/globals";
import { cycleOf, harmonicsOf } from "./oscillator-wave";

const plain = { wave: "saw", into: "sine", blend: 0, width: 0.5, bend: 0, fed: 0, ratio: 1 };

describe("the picture of an oscillator", () => {
  test("its harmonics are those of the waves", () => {
    harmonicsOf(cycleOf(plain), 8).forEach((level, h) => {
      expect(level).toBeCloseTo(20 * Math.log10(2 / Math.PI / (h + 1)), 1);
    });
    const pulse = harmonicsOf(cycleOf({ ...plain, wave: "pulse" }), 4);
    expect(pulse[1]).toBeLessThan(-40);
    expect(pulse[0]).toBeCloseTo(20 * Math.log10(4 / Math.PI), 1);
    expect(harmonicsOf(cycleOf({ ...plain, blend: 1 }), 3).map(Math.round)).toEqual(
      [0, -120, -120].map((x) => (x < -100 ? expect.any(Number) : x)),
    );
  });

  test("synced it begins anew with the cycle, between two begun ones of its own", () => {
    const cycle = cycleOf({ ...plain, ratio: 1.5 });
    expect(cycle[0]).toBeCloseTo(1, 5);
    expect(cycle[cycle.length - 1]).toBeCloseTo(0, 1);
    expect(harmonicsOf(cycle, 3)[2]).toBeGreaterThan(-30);
  });

  test("bent and fed it grows brighter, and stays within bounds", () => {
    for (const change of [{ bend: 1 }, { fed: 1 }, { bend: -1, fed: 1, blend: 0.5 }]) {
      const cycle = cycleOf({ ...plain, wave: "sine", into: "pulse", ...change });
      expect(cycle.every((y) => Math.abs(y) <= 2)).toBe(true);
      expect(harmonicsOf(cycle, 2)[1]).toBeGreaterThan(-20);
    }
  });
});
