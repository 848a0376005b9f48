import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { seededRandom } from "../audio";
import { findPredictor, residualOf } from "./linear-prediction";

/** Sound that remembers: each value is the sum of the ones before, weighed, and something new. */
function remembering(weights: readonly number[], frames: number, level: number, seed = 2): Int32Array {
  const random = seededRandom(seed);
  const out = new Int32Array(frames);
  const exact = new Float64Array(frames);
  for (let i = 0; i < frames; i++) {
    let sum = (random() + random() - 1) * level;
    weights.forEach((w, j) => {
      sum += w * (exact[i - 1 - j] ?? 0);
    });
    exact[i] = sum;
    out[i] = Math.round(sum);
  }
  return out;
}
const energy = (x: ArrayLike<number>, from: number): number => {
  let sum = 0;
  for (let i = from; i < x.length; i++) sum += (x[i] as number) ** 2;
  return sum / (x.length - from);
};

describe("linear prediction", () => {
  test.each([[[0.9]], [[1.6, -0.8]], [[1.2, -0.9, 0.4]], [[0.5, 0, 0, -0.6]]])(
    "finds the weights %j by which a sound was made, and leaves only what is new",
    (weights) => {
      const x = remembering(weights, 4096, 900);
      const found = findPredictor(x, 12, 14, 16);
      if (!found) throw new Error("nothing found");
      weights.forEach((w, i) => {
        expect(Math.abs((found.weights[i] as number) / 2 ** found.shift - w)).toBeLessThan(0.06);
      });
      const residual = residualOf(x, found);
      if (!residual) throw new Error("too large");
      // What is new has an even triangle of ±900: its energy is 900²/6.
      expect(energy(residual, 12) / (900 ** 2 / 6)).toBeCloseTo(1, 1);
    },
  );

  test("more weights are taken only where they save more than they cost", () => {
    const noise = remembering([], 4096, 9000);
    expect(findPredictor(noise, 12, 14, 16)?.weights.length ?? 0).toBeLessThan(3);
    const tones = Int32Array.from({ length: 4096 }, (_, i) =>
      Math.round([0.05, 0.31, 0.77, 1.3].reduce((sum, w) => sum + 4000 * Math.sin(w * i), 0)),
    );
    expect(findPredictor(tones, 12, 14, 16)?.weights.length ?? 0).toBeGreaterThan(7);
  });

  test("from the residual and the first samples comes the block again, whatever it is", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -(2 ** 24), max: 2 ** 24 - 1 }), { minLength: 3, maxLength: 300 }),
        fc.integer({ min: 1, max: 12 }),
        (values, most) => {
          const x = Int32Array.from(values);
          const found = findPredictor(x, Math.min(most, x.length - 1), 14, 25);
          const residual = found && residualOf(x, found);
          if (!found || !residual) return;
          const order = found.weights.length;
          const back = residual.slice();
          for (let i = order; i < back.length; i++) {
            let sum = 0;
            for (let j = 0; j < order; j++) sum += (found.weights[j] as number) * (back[i - 1 - j] as number);
            back[i] = (residual[i] as number) + Math.floor(sum / 2 ** found.shift);
          }
          expect(back).toEqual(x);
          for (const w of found.weights) expect(Math.abs(w + 0.5)).toBeLessThanOrEqual(2 ** 13);
        },
      ),
      { numRuns: 200, seed: 3 },
    );
  });

  test("silence has no predictor; residuals beyond 30 bits are refused", () => {
    expect(findPredictor(new Int32Array(100), 8, 14, 16)).toBeNull();
    const x = Int32Array.from({ length: 20 }, (_, i) => (i % 2 ? 1 : -1) * 2 ** 24);
    expect(residualOf(x, { weights: Float64Array.of(-8191, 8191), shift: 3 })).toBeNull();
  });
});
