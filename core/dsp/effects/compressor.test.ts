import { describe, expect, test } from "@jest/globals";
import { Compressor, compressedBy } from "./compressor";
import { decibels, RATE, through } from "./effect-bench";

describe("compressor", () => {
  test("its curve within 0.2 dB, below, in and above the knee", () => {
    for (const [level, threshold, ratio, knee] of [
      [-40, -18, 4, 6],
      [-18, -18, 4, 6],
      [-6, -18, 4, 6],
      [-3, -30, 20, 0],
      [-12, -24, 2, 24],
    ] as const) {
      const compressor = new Compressor(RATE);
      compressor.tune(1, threshold, ratio, knee, 0.001, 0.5, 0);
      // A level that is the same at every frame.
      const [left] = through(compressor, new Float32Array(RATE / 4).fill(10 ** (level / 20)));
      const over = level - threshold;
      const wanted =
        2 * over < -knee
          ? level
          : 2 * Math.abs(over) <= knee && knee > 0
            ? level + ((1 / ratio - 1) * (over + knee / 2) ** 2) / (2 * knee)
            : threshold + over / ratio;
      expect(Math.abs(decibels(left.at(-1) as number) - wanted)).toBeLessThan(0.2);
      expect(level + compressedBy(level, threshold, ratio, knee)).toBeCloseTo(wanted, 9);
    }
  });

  test("it takes hold and lets go in its times: 63 % of the way", () => {
    const compressor = new Compressor(RATE);
    compressor.tune(1, -20, 10, 0, 0.02, 0.2, 0);
    const x = new Float32Array(RATE).fill(1);
    x.fill(0.01, RATE / 2);
    const [left] = through(compressor, x);
    const full = -18;
    expect(decibels(left[Math.round(0.02 * RATE)] as number)).toBeCloseTo(full * (1 - Math.exp(-1)), 0);
    const back = decibels((left[Math.round(0.7 * RATE)] as number) / 0.01);
    expect(back).toBeCloseTo(full * Math.exp(-1), 0);
  });
});
