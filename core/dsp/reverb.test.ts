import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { Reverb } from "./reverb";

const RATE = 48000;
const noise = (frames: number, seed: number, level = 1) => {
  const random = seededRandom(seed);
  return Float32Array.from({ length: frames }, () => (random() * 2 - 1) * level);
};

describe("reverb", () => {
  const impulse = (seconds: number, decay: number) => {
    const reverb = new Reverb(RATE);
    reverb.tune(1, 0.8, decay, 20000);
    const left = new Float32Array(seconds * RATE);
    const right = new Float32Array(seconds * RATE);
    left[0] = 1;
    right[0] = 1;
    reverb.process(left, right, 0, left.length);
    return left;
  };
  const power = (x: Float32Array, from: number, to: number) =>
    x.subarray(from * RATE, to * RATE).reduce((sum, v) => sum + v * v, 0);

  test("it dies away by 60 dB in its decay time", () => {
    const x = impulse(4, 2);
    const fall = 10 * Math.log10(power(x, 2.2, 2.7) / power(x, 0.7, 1.2));
    // 1.5 s of a 2 s decay: 45 dB.
    expect(fall).toBeGreaterThan(-50);
    expect(fall).toBeLessThan(-40);
  });

  test("any split of the block gives the same bits", () => {
    const input = noise(3000, 4, 0.3);
    const run = (cuts: number[]) => {
      const reverb = new Reverb(RATE);
      reverb.tune(0.5, 0.6, 1.5, 5000);
      const left = input.slice();
      const right = input.slice();
      let at = 0;
      for (const cut of [...cuts, 3000]) {
        reverb.process(left, right, at, cut);
        at = cut;
      }
      return left;
    };
    expect(run([1, 17, 999, 1000, 2048])).toEqual(run([]));
  });
});
