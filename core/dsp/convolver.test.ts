import { describe, expect, test } from "@jest/globals";
import { Fft, seededRandom } from "../audio";
import { Convolver } from "./convolver";
import { turnsOf } from "./impulse-room";
import { compileKernels } from "./kernels/compile-kernels";
import { startKernels } from "./kernels/kernels";

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
    const [c, d] = [noise(4000, 6), noise(4000, 6)];
    convolver.process(c, d, 0, 4000);
    // It goes as it came, within a quarter of a second.
    expect(c.subarray(2200)).toEqual(noise(4000, 6).subarray(2200));
  });
});

describe("which part of it is heard", () => {
  const impulse = noise(6000, 8);
  const once = (start: number, length: number, fade: number): Float32Array => {
    const convolver = new Convolver(RATE, KERNELS);
    convolver.load({ rate: RATE, channels: [impulse] });
    convolver.settle();
    convolver.trim(start, length, fade);
    convolver.tune(1, 0);
    const [left, right] = [new Float32Array(8000), new Float32Array(8000)];
    left[0] = 1;
    right[0] = 1;
    convolver.process(left, right, 0, left.length);
    left[0] = (left[0] as number) - 1;
    return left;
  };

  test.each([
    [0, 0, 0],
    [0.1, 0, 0],
    [0.05, 0.3, 0],
    [0, 0.5, 0.5],
    [0.2, 0.01, 1],
    [99, 0, 0],
  ])("from %d s, %d s of it (0: all), fading over %d of that", (start, length, fade) => {
    const from = Math.min(impulse.length - 128, Math.round(start * RATE));
    const frames = length > 0 ? Math.round(length * RATE) : impulse.length - from;
    const faded = Math.round(fade * frames);
    const out = once(start, length, fade);
    for (let i = 0; i < out.length; i++) {
      const left = frames - i;
      const weight = left > faded ? 1 : 0.5 - 0.5 * Math.cos((Math.PI * (left - 0.5)) / faded);
      const expected = i < frames ? (impulse[from + i] as number) * weight : 0;
      expect(Math.abs((out[i] as number) - expected)).toBeLessThan(1e-6);
    }
  });

  const changed = (sound: Float32Array, frames: number, ...how: [number, boolean, number]): Float32Array => {
    const convolver = new Convolver(RATE, KERNELS);
    convolver.load({ rate: RATE, channels: [sound] });
    convolver.settle();
    convolver.trim(0, 0, 0, ...how);
    convolver.tune(1, 0);
    const [left, right] = [new Float32Array(frames), new Float32Array(frames)];
    left[0] = 1;
    right[0] = 1;
    convolver.process(left, right, 0, frames);
    left[0] = (left[0] as number) - 1;
    return left;
  };

  test("backwards it is the same, read from its end; it comes in over as much as is wished", () => {
    const out = changed(impulse, 8000, 0.25, true, 1);
    for (let i = 0; i < out.length; i++) {
      const weight = i < 1500 ? 0.5 - 0.5 * Math.cos((Math.PI * (i + 0.5)) / 1500) : 1;
      const expected = i < 6000 ? (impulse[5999 - i] as number) * weight : 0;
      expect(Math.abs((out[i] as number) - expected)).toBeLessThan(1e-6);
    }
  });

  test.each([0.25, 0.5, 1.37, 2])("stretched by %d it lasts as much longer, lower by as much, as loud", (stretch) => {
    const tone = (hertz: number, frames: number) =>
      Float32Array.from({ length: frames }, (_, i) => Math.sin((2 * Math.PI * hertz * i) / RATE));
    const out = changed(tone(300, 6000), 14000, 0, false, stretch);
    const frames = Math.round(6000 * stretch);
    const wanted = tone(300 / stretch, frames).map((x) => x / Math.sqrt(stretch));
    for (let i = 60; i < frames - 60; i++)
      expect(Math.abs((out[i] as number) - (wanted[i] as number))).toBeLessThan(0.004 / Math.sqrt(stretch));
    expect(Math.max(...out.subarray(frames + 1).map(Math.abs))).toBeLessThan(1e-5);
    const energy = out.reduce((sum, x) => sum + x * x, 0);
    expect(energy / 3000).toBeCloseTo(1, 1);
  });

  test("what would fold back when it is made shorter is taken off", () => {
    const high = Float32Array.from({ length: 6000 }, (_, i) => Math.sin(i * 2.2));
    const out = changed(high, 4000, 0, false, 0.5);
    expect(Math.max(...out.subarray(60, 2900).map(Math.abs))).toBeLessThan(0.006);
  });

  test("moved while it sounds, and back, it goes over without a step, as does another impulse", () => {
    const convolver = new Convolver(RATE, KERNELS);
    // Decaying by 60 dB in its length, as rooms do.
    const room = (seed: number) => noise(6000, seed).map((x, i) => 0.1 * x * 10 ** (-i / 2000));
    convolver.load({ rate: RATE, channels: [room(1)] });
    convolver.settle();
    convolver.tune(1, 0);
    const tone = Float32Array.from({ length: 60000 }, (_, i) => Math.sin(i * 0.05));
    const out = Float32Array.from(tone);
    const other = Float32Array.from(tone);
    const changes: Record<number, () => void> = {
      12800: () => convolver.trim(0.02, 0.2, 0.5),
      25600: () => convolver.trim(0, 0, 0),
      38400: () => convolver.load({ rate: RATE, channels: [room(2)] }),
      51200: () => convolver.load(null),
    };
    for (let at = 0; at < out.length; at += 100) {
      changes[at]?.();
      convolver.process(out, other, at, Math.min(out.length, at + 100));
    }
    const wet = out.map((x, i) => x - (tone[i] as number));
    let steepest = 0;
    let loudest = 0;
    for (let i = 8001; i < wet.length; i++) {
      steepest = Math.max(steepest, Math.abs((wet[i] as number) - (wet[i - 1] as number)));
      loudest = Math.max(loudest, Math.abs(wet[i] as number));
    }
    // A tone of 0.05 per frame is no steeper than this, whatever room it is in.
    expect(steepest).toBeLessThan(loudest * 0.05 * 1.2);
    expect(loudest).toBeGreaterThan(0.1);
    expect(wet.subarray(-2000).every((x) => x === 0)).toBe(true);
  });
});

describe("its kernels", () => {
  const kernels = KERNELS.twin(64 * 2 ** 20);
  const f32 = new Float32Array(kernels.memory.buffer);
  const fill = (from: number, count: number, seed: number): Float32Array => {
    const random = seededRandom(seed);
    for (let i = 0; i < count; i++) f32[from + i] = random() - 0.5;
    return f32.slice(from, from + count);
  };

  test.each([16, 256, 4096])("the transform of %i numbers is the plain one, and leads back", (size) => {
    const [re, im, workRe, workIm, turns] = [0, 5000, 10000, 15000, 20000];
    const [x, y] = [fill(re, size, 1), fill(im, size, 2)];
    f32.set(turnsOf(size), turns);
    const go = (a: number, b: number) => kernels.fourier(a * 4, b * 4, workRe * 4, workIm * 4, turns * 4, size);
    go(re, im);
    const plainRe = Float64Array.from(x);
    const plainIm = Float64Array.from(y);
    new Fft(size).forward(plainRe, plainIm);
    const most = Math.max(...plainRe.map(Math.abs), ...plainIm.map(Math.abs));
    for (let k = 0; k < size; k++) {
      expect(Math.abs((f32[re + k] as number) - (plainRe[k] as number))).toBeLessThan(most * 1e-6);
      expect(Math.abs((f32[im + k] as number) - (plainIm[k] as number))).toBeLessThan(most * 1e-6);
    }
    go(im, re);
    for (let i = 0; i < size; i++) {
      expect((f32[re + i] as number) / size).toBeCloseTo(x[i] as number, 6);
      expect((f32[im + i] as number) / size).toBeCloseTo(y[i] as number, 6);
    }
  });

  test("two channels' spectra are told apart, and put together again", () => {
    const size = 256;
    const [re, im, spectra] = [0, 1000, 2000];
    const left = fill(re, size, 3);
    const right = fill(im, size, 4);
    f32.set(turnsOf(size), 8000);
    kernels.fourier(re * 4, im * 4, 4000 * 4, 5000 * 4, 8000 * 4, size);
    const both = [f32.slice(re, re + size), f32.slice(im, im + size)];
    kernels.spread(re * 4, im * 4, spectra * 4, size);
    [left, right].forEach((channel, c) => {
      const [a, b] = [Float64Array.from(channel), new Float64Array(size)];
      new Fft(size).forward(a, b);
      const stride = size / 2 + 4;
      for (let k = 0; k <= size / 2; k++) {
        expect(f32[spectra + c * 2 * stride + k]).toBeCloseTo(a[k] as number, 4);
        expect(f32[spectra + (c * 2 + 1) * stride + k]).toBeCloseTo(b[k] as number, 4);
      }
      for (let k = size / 2 + 1; k < stride; k++) expect(f32[spectra + c * 2 * stride + k]).toBe(0);
    });
    kernels.gather(re * 4, im * 4, spectra * 4, size);
    for (let k = 0; k < size; k++) {
      expect(f32[re + k]).toBeCloseTo(both[0]?.[k] as number, 4);
      expect(f32[im + k]).toBeCloseTo(both[1]?.[k] as number, 4);
    }
    expect(f32.slice(spectra, spectra + 4 * (size / 2 + 4)).every((x) => x === 0)).toBe(true);
  });

  test.each([
    [5, 2, 0, 5],
    [5, 0, 1, 4],
    [1, 0, 0, 1],
    [4, 3, 2, 2],
  ])("products of %i parts, the newest %i, from %i to before %i", (count, turn, from, to) => {
    const floats = 8;
    const stride = floats * 4;
    const [sum, past, impulse] = [0, 100, 1000];
    const before = fill(sum, 4 * floats, 5);
    const heard = fill(past, count * 4 * floats, 6);
    const rings = fill(impulse, count * 4 * floats, 7);
    kernels.multiplyParts(sum * 4, past * 4, impulse * 4, turn, count, from, to, stride);
    for (let channel = 0; channel < 2; channel++) {
      for (let k = 0; k < floats; k++) {
        let re = before[channel * 2 * floats + k] as number;
        let im = before[(channel * 2 + 1) * floats + k] as number;
        for (let p = from; p < to; p++) {
          const a = ((turn - p + count) % count) * 4 * floats + channel * 2 * floats + k;
          const b = p * 4 * floats + channel * 2 * floats + k;
          const [ar, ai] = [heard[a] as number, heard[a + floats] as number];
          const [br, bi] = [rings[b] as number, rings[b + floats] as number];
          re += ar * br - ai * bi;
          im += ar * bi + ai * br;
        }
        expect(f32[sum + channel * 2 * floats + k]).toBeCloseTo(re, 5);
        expect(f32[sum + (channel * 2 + 1) * floats + k]).toBeCloseTo(im, 5);
      }
    }
  });

  test("taps come out as plain TypeScript computes them, however many are asked for", () => {
    const values = fill(0, 2000, 9);
    kernels.direct(3000 * 4, 700 * 4, 1000 * 4, 51);
    for (let n = 0; n < 51; n++) {
      let expected = 0;
      for (let k = 0; k < 128; k++) expected += (values[700 + k] as number) * (values[1000 + n + k] as number);
      expect(f32[3000 + n]).toBeCloseTo(expected, 5);
      kernels.direct(4000 * 4, 700 * 4, (1000 + n) * 4, 1);
      expect(f32[4000]).toBe(f32[3000 + n]);
    }
  });
});
