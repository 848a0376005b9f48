import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { Convolver } from "./convolver";
import { compileKernels, startKernels } from "./kernels/kernels";

const RATE = 8000;
const KERNELS = startKernels(compileKernels());

function noise(frames: number, seed: number): Float32Array {
  const random = seededRandom(seed);
  return Float32Array.from({ length: frames }, () => random() - 0.5);
}

/** Runs a sound through a convolver that is ready, in pieces of the given sizes. */
function run(input: Float32Array, impulse: Float32Array, sizes: readonly number[], delay = 0): Float32Array[] {
  const convolver = new Convolver(RATE, KERNELS);
  convolver.load({ rate: RATE, channels: [impulse, impulse.map((x) => -x)] });
  convolver.settle();
  convolver.tune(1, delay);
  convolver.reset();
  const [left, right] = [Float32Array.from(input), Float32Array.from(input)];
  for (let at = 0, n = 0; at < input.length; n++) {
    const to = Math.min(input.length, at + (sizes[n % sizes.length] ?? 128));
    convolver.process(left, right, at, to);
    at = to;
  }
  return [left, right];
}

/** A sparse signal, so that a direct convolution is quick. */
const clicks = [
  [0, 1],
  [127, -0.5],
  [1000, 0.7],
  [2047, 0.3],
  [5000, -0.9],
  [9999, 0.4],
] as const;

describe("convolution", () => {
  test.each([1, 100, 128, 129, 4095, 4096, 4097, 6200, 11000])(
    "an impulse of %i frames: what comes out is the direct convolution, from the first frame on",
    (length) => {
      const input = new Float32Array(24000);
      for (const [at, level] of clicks) input[at] = level;
      const impulse = noise(length, length);
      const expected = Float64Array.from(input);
      for (const [at, level] of clicks)
        for (let k = 0; k < length && at + k < expected.length; k++)
          expected[at + k] = (expected[at + k] as number) + level * (impulse[k] as number);
      const [left, right] = run(input, impulse, [128]) as [Float32Array, Float32Array];
      let most = 0;
      for (let i = 0; i < input.length; i++) {
        most = Math.max(most, Math.abs((left[i] as number) - (expected[i] as number)));
        const mirrored = 2 * (input[i] as number) - (expected[i] as number);
        most = Math.max(most, Math.abs((right[i] as number) - mirrored));
      }
      // −110 dB: the spectra are kept in single precision.
      expect(most).toBeLessThan(3e-6);
    },
  );

  test("splitting the time anywhere gives the same bits", () => {
    const input = noise(9000, 2);
    const impulse = noise(7000, 3);
    expect(run(input, impulse, [1, 77, 128, 300])).toEqual(run(input, impulse, [128]));
  });

  test("the pre-delay moves the room by so much", () => {
    const input = new Float32Array(3000);
    input[10] = 1;
    const impulse = new Float32Array(200);
    impulse[0] = 0.5;
    const [left] = run(input, impulse, [128], 0.1) as [Float32Array];
    expect(left[10]).toBe(1);
    expect(left[810]).toBeCloseTo(0.5, 6);
  });

  test("without an impulse nothing is added; one that comes while it sounds is faded in by being made ready first", () => {
    const convolver = new Convolver(RATE, KERNELS);
    convolver.tune(1, 0);
    const [left, right] = [noise(2000, 1), noise(2000, 1)];
    convolver.process(left, right, 0, 2000);
    expect(left).toEqual(noise(2000, 1));
    convolver.load({ rate: RATE, channels: [noise(9000, 4)] });
    const [a, b] = [noise(20000, 5), noise(20000, 5)];
    convolver.process(a, b, 0, 20000);
    expect(a.subarray(0, 500)).toEqual(noise(20000, 5).subarray(0, 500));
    expect(a.subarray(19000)).not.toEqual(noise(20000, 5).subarray(19000));
    expect(a.every(Number.isFinite)).toBe(true);
    convolver.load(null);
    const [c, d] = [noise(300, 6), noise(300, 6)];
    convolver.process(c, d, 0, 300);
    expect(c).toEqual(noise(300, 6));
  });
});

describe("its kernels", () => {
  test("products and taps come out as plain TypeScript computes them", () => {
    const kernels = KERNELS.twin(64 * 2 ** 20);
    const f32 = new Float32Array(kernels.memory.buffer);
    const random = seededRandom(9);
    for (let i = 0; i < 2000; i++) f32[i] = random() - 0.5;
    const before = f32.slice();
    const [sum, a, b] = [0, 200, 400];
    kernels.multiplyAdd(sum * 4, (sum + 100) * 4, a * 4, (a + 100) * 4, b * 4, (b + 100) * 4, 100);
    const value = (i: number) => before[i] as number;
    for (let k = 0; k < 100; k++) {
      const [x, y, c, d] = [value(a + k), value(a + 100 + k), value(b + k), value(b + 100 + k)];
      expect(f32[sum + k]).toBeCloseTo(value(sum + k) + x * c - y * d, 6);
      expect(f32[sum + 100 + k]).toBeCloseTo(value(sum + 100 + k) + x * d + y * c, 6);
    }
    kernels.direct(1900 * 4, 700 * 4, 1000 * 4, 50);
    for (let n = 0; n < 50; n++) {
      let expected = 0;
      for (let k = 0; k < 128; k++) expected += value(700 + k) * value(1000 + n + k);
      expect(f32[1900 + n]).toBeCloseTo(expected, 5);
    }
  });
});
