import { describe, expect, test } from "@jest/globals";
import { harmonicLevels, lastCycles } from "./live-wave";

const RATE = 48000;
const sum = (hertz: number, levels: readonly number[], frames = 20000, phase = 0): Float32Array =>
  Float32Array.from({ length: frames }, (_, i) =>
    levels.reduce(
      (y, level, h) => y + level * Math.sin((2 * Math.PI * hertz * (h + 1) * i) / RATE + phase * (h + 1)),
      0,
    ),
  );

describe("the wave of what is heard", () => {
  test("two cycles from where it goes up, wherever in them the sound ends", () => {
    for (const phase of [0, 1, 2.5, 5]) {
      const wave = lastCycles(sum(220, [0.3], 20000, phase), RATE / 220, 200) as Float32Array;
      for (let p = 0; p < 200; p++) expect(wave[p]).toBeCloseTo(Math.sin((4 * Math.PI * p) / 200), 1);
    }
  });

  test("a pulse stands still, too: it begins before the highest of its rises", () => {
    const pulses = Float32Array.from({ length: 20000 }, (_, i) =>
      i % 200 < 20 ? 0.5 : i % 200 > 100 && i % 200 < 110 ? 0.2 : -0.05,
    );
    const waves = [0, 37, 150].map((less) => lastCycles(pulses.subarray(0, 20000 - less), 200, 100) as Float32Array);
    for (const wave of waves)
      for (let p = 0; p < 100; p++) expect(Math.abs((wave[p] as number) - (waves[0]?.[p] ?? 9))).toBeLessThan(0.1);
  });

  test("silence, an offset alone, too little, or no period: none", () => {
    expect(lastCycles(new Float32Array(9000), 200, 50)).toBeNull();
    expect(lastCycles(new Float32Array(9000).fill(0.3), 200, 50)).toBeNull();
    expect(lastCycles(sum(220, [0.3], 400), 218, 50)).toBeNull();
    expect(lastCycles(sum(220, [0.3]), Number.NaN, 50)).toBeNull();
  });
});

describe("the harmonics of what is heard", () => {
  test.each([55, 220, 987.77, 4000])("of %d Hz: as loud as they are", (hertz) => {
    const levels = harmonicLevels(sum(hertz, [0.1, 0.4, 0, 0.04]), RATE, hertz, 5);
    expect(levels[0]).toBeCloseTo(-12.04, 0);
    expect(levels[1]).toBeCloseTo(0, 6);
    expect(levels[2]).toBeLessThan(-50);
    expect(levels[3]).toBeCloseTo(-20, 0);
    expect(levels).toHaveLength(5);
  });

  test("above half the rate there are none; of silence all lie at the floor", () => {
    expect(harmonicLevels(sum(9000, [0.1]), RATE, 9000, 8)).toHaveLength(2);
    expect(harmonicLevels(new Float32Array(9000), RATE, 100, 3)).toEqual([-120, -120, -120]);
  });
});
