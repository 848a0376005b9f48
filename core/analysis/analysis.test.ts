import { describe, expect, test } from "@jest/globals";
import { hertzOf, seededRandom } from "../audio";
import { measureLevels } from "./levels";
import { loudnessOf } from "./loudness";
import { type MeasuredSlice, proposeKeep } from "./measure";
import { PitchFinder } from "./pitch";
import { FIND_DEFAULTS, findSlices } from "./slices";

const RATE = 44100;

/** A plucked tone of ten partials over noise. */
function pluck(note: number, seconds: number, noise: number, seed: number, level = 0.4): Float32Array {
  const random = seededRandom(seed);
  const f = hertzOf(note);
  const weights = Array.from({ length: 10 }, (_, k) => (0.4 + random()) / (k + 1));
  const phases = weights.map(() => random() * 6.28);
  return Float32Array.from({ length: Math.round(seconds * RATE) }, (_, i) => {
    const t = i / RATE;
    let x = (random() * 2 - 1) * noise;
    weights.forEach((w, k) => {
      if ((k + 1) * f < 18000)
        x += level * 0.4 * w * Math.exp(-t * (2 + k)) * Math.sin((phases[k] ?? 0) + 2 * Math.PI * f * (k + 1) * t);
    });
    return x * Math.min(1, i / 40);
  });
}

describe("pitch", () => {
  test("plucked tones from 41 to 2000 Hz at −40 dB of noise: within 5 cents, octaves right", () => {
    const finder = new PitchFinder(RATE);
    let close = 0;
    let octaveRight = 0;
    let all = 0;
    for (let note = 28; note <= 95; note += 2.37) {
      const found = finder.find(pluck(note, 0.6, 0.01 * 0.4, Math.round(note * 100))).note ?? 0;
      all++;
      if (Math.abs(found - note) < 0.05) close++;
      if (Math.abs(found - note) < 1) octaveRight++;
    }
    expect(close / all).toBeGreaterThanOrEqual(0.95);
    expect(octaveRight / all).toBeGreaterThanOrEqual(0.99);
  });

  test("a steady sine is measured within a cent, and surely", () => {
    const finder = new PitchFinder(RATE);
    for (const hertz of [55, 220.5, 997, 1760]) {
      const x = Float32Array.from({ length: RATE }, (_, i) => 0.3 * Math.sin((2 * Math.PI * hertz * i) / RATE));
      const { note, confidence } = finder.find(x);
      expect(Math.abs(1200 * Math.log2(hertzOf(note ?? 0) / hertz))).toBeLessThan(1);
      expect(confidence).toBeGreaterThan(0.95);
    }
  });

  test("noise and silence have no sure pitch; a stub of sound has none", () => {
    const random = seededRandom(9);
    const finder = new PitchFinder(RATE);
    expect(finder.find(Float32Array.from({ length: RATE }, () => random() - 0.5)).confidence).toBeLessThan(0.4);
    expect(finder.find(new Float32Array(RATE))).toEqual({ note: null, confidence: 0 });
    expect(finder.find(new Float32Array(50).fill(0.1))).toEqual({ note: null, confidence: 0 });
    expect(() => new PitchFinder(RATE, 50, 40000)).toThrow(RangeError);
  });
});

describe("slices", () => {
  /** Hits at known frames over a room at −40 dB below them. */
  function take(noise: number) {
    const random = seededRandom(21);
    const onsets: number[] = [];
    const x = Float32Array.from({ length: RATE * 30 }, () => (random() * 2 - 1) * noise);
    for (let at = RATE; at < 28 * RATE; at += Math.round((0.9 + random() * 1.4) * RATE)) {
      onsets.push(at);
      pluck(50 + random() * 20, 0.85, 0, at, 0.3 + random() * 0.5).forEach((v, i) => {
        x[at + i] = (x[at + i] ?? 0) + v * Math.exp((-5 * i) / RATE);
      });
    }
    return { x, onsets };
  }

  test.each([0.0005, 0.002])(
    "separated hits over noise of %f: none missed, none invented, onsets within 5 ms, ends before the next",
    (noise) => {
      const { x, onsets } = take(noise);
      const found = findSlices(measureLevels(x, RATE));
      expect(found).toHaveLength(onsets.length);
      found.forEach((slice, i) => {
        expect(Math.abs(slice.onset - (onsets[i] ?? 0))).toBeLessThan(0.005 * RATE);
        expect(slice.start).toBeLessThanOrEqual(slice.onset);
        expect(slice.end).toBeLessThanOrEqual(found[i + 1]?.start ?? x.length);
      });
    },
  );

  test("an attack inside a ringing sound begins a new slice", () => {
    const x = new Float32Array(3 * RATE);
    for (const at of [0.5, 1.2]) {
      pluck(60, 1.5, 0, 3, at === 1.2 ? 0.6 : 0.15).forEach((v, i) => {
        const t = Math.round(at * RATE) + i;
        if (t < x.length) x[t] = (x[t] ?? 0) + v;
      });
    }
    const random = seededRandom(2);
    for (let i = 0; i < x.length; i++) x[i] = (x[i] ?? 0) + (random() - 0.5) * 0.0004;
    expect(findSlices(measureLevels(x, RATE)).map((s) => Math.round((s.onset / RATE) * 100) / 100)).toEqual([0.5, 1.2]);
  });

  test("a higher threshold never finds more, and silence or noise alone has no sounds", () => {
    const levels = measureLevels(take(0.001).x, RATE);
    let last = Number.POSITIVE_INFINITY;
    for (let threshold = 12; threshold < 70; threshold += 4) {
      const { length } = findSlices(levels, { ...FIND_DEFAULTS, threshold });
      expect(length).toBeLessThanOrEqual(last);
      last = length;
    }
    const random = seededRandom(8);
    const noise = Float32Array.from({ length: 5 * RATE }, () => random() * 0.01);
    expect(findSlices(measureLevels(noise, RATE))).toEqual([]);
    expect(findSlices(measureLevels(new Float32Array(RATE), RATE))).toEqual([]);
  });

  test("bumps in a tonal take are proposed for leaving out; a kit is kept whole", () => {
    const slice = (confidence: number, length: number): MeasuredSlice => ({
      start: 0,
      end: length,
      onset: 0,
      pitch: 60,
      confidence,
      peak: -6,
      loudness: -20,
    });
    expect(proposeKeep([slice(0.9, 40000), slice(0.95, 40000), slice(0.2, 40000), slice(0.9, 3000)])).toEqual([
      true,
      true,
      false,
      false,
    ]);
    expect(proposeKeep([slice(0.1, 4000), slice(0.2, 3000), slice(0.9, 9000)])).toEqual([true, true, true]);
  });
});

describe("loudness", () => {
  test("a 997 Hz sine at full scale is −3.01 LUFS in one channel (BS.1770)", () => {
    for (const rate of [44100, 48000, 96000]) {
      const x = Float32Array.from({ length: rate }, (_, i) => Math.sin((2 * Math.PI * 997 * i) / rate));
      expect(loudnessOf({ rate, channels: [x] })).toBeCloseTo(-3.01, 1);
      expect(loudnessOf({ rate, channels: [x, x] })).toBeCloseTo(0, 1);
    }
    expect(loudnessOf({ rate: 48000, channels: [new Float32Array(100)] })).toBe(-120);
  });
});
