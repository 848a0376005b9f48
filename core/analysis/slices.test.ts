import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { findAttacks, measureFlux } from "./attacks";
import { measureLevels } from "./levels";
import { FIND_DEFAULTS, findSlices, sliceAtAttacks, sliceAtMarkers, sliceByGrid } from "./slices";
import { pluck, RATE } from "./test-sounds";

describe("slices", () => {
  /** Hits at known frames over a room at −40 dB below them. */
  function take(noise: number) {
    const random = seededRandom(21);
    const onsets: number[] = [];
    const x = new Float32Array(RATE * 30);
    for (let i = 0; i < x.length; i++) x[i] = (random() * 2 - 1) * noise;
    for (let at = RATE; at < 28 * RATE; at += Math.round((0.9 + random() * 1.4) * RATE)) {
      onsets.push(at);
      const hit = pluck(50 + random() * 20, 0.85, 0, at, 0.3 + random() * 0.5);
      for (let i = 0; i < hit.length; i++) x[at + i] = (x[at + i] ?? 0) + (hit[i] ?? 0) * Math.exp((-5 * i) / RATE);
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

  test("of a swell the beginning is found, not where it has become loud; of a stroke out of what rings, the stroke", () => {
    const random = seededRandom(3);
    const x = Float32Array.from({ length: 3 * RATE }, () => (random() - 0.5) * 0.006);
    const swell = 0.014 * RATE;
    for (let i = 0; i < RATE / 2; i++)
      x[RATE + i] = (x[RATE + i] as number) + 0.08 * Math.sin(i * 0.2) * Math.min(1, i / swell) * Math.exp(-i / 8000);
    const [found, ...more] = findSlices(measureLevels(x, RATE));
    expect(more).toEqual([]);
    expect(Math.abs((found?.onset ?? 0) - RATE)).toBeLessThan(0.004 * RATE);
    // The stroke comes while the swell is still well above the noise.
    for (let i = 0; i < RATE; i++)
      x[RATE + 9000 + i] = (x[RATE + 9000 + i] as number) + 0.5 * Math.sin(i * 0.3) * Math.exp(-i / 6000);
    const both = findSlices(measureLevels(x, RATE));
    expect(both).toHaveLength(2);
    expect(Math.abs((both[1]?.onset ?? 0) - RATE - 9000)).toBeLessThan(0.002 * RATE);
  });

  test("parts on a grid and at markers lie where they should", () => {
    expect(sliceByGrid(1000, 100, 2.5, 1).map((s) => [s.start, s.end])).toEqual([
      [100, 350],
      [350, 600],
      [600, 850],
      [850, 1000],
    ]);
    expect(() => sliceByGrid(1000, 100, 0, 0)).toThrow(RangeError);
    const markers = [
      { at: 500, length: 100 },
      { at: 50, length: 0 },
      { at: 5000, length: 3 },
    ];
    expect(sliceAtMarkers(1000, markers).map((s) => [s.start, s.end])).toEqual([
      [50, 500],
      [500, 600],
    ]);
  });

  test("attacks of sounds that ring into one another are found to 5 ms, none missed, none invented", () => {
    const random = seededRandom(12);
    const x = Float32Array.from({ length: RATE * 5 }, () => (random() - 0.5) * 0.002);
    const onsets: number[] = [];
    for (let at = 12000; at < 4 * RATE; at += Math.round((0.3 + random() * 0.5) * RATE)) {
      onsets.push(at);
      const sound = pluck(52 + Math.floor(random() * 20), 0.9, 0, at, 0.5);
      // Let ring, and then damped: a sound that breaks off is an attack of its own.
      for (let i = 0; i < 6000; i++) sound[sound.length - 1 - i] = ((sound[sound.length - 1 - i] as number) * i) / 6000;
      for (let i = 0; i < sound.length && at + i < x.length; i++)
        x[at + i] = (x[at + i] as number) + (sound[i] as number);
    }
    const levels = measureLevels(x, RATE);
    const found = findAttacks(measureFlux(x, RATE, levels.floor), levels, 0.5, 0.05);
    expect(found).toHaveLength(onsets.length);
    found.forEach((at, i) => {
      expect(Math.abs(at - (onsets[i] ?? 0))).toBeLessThan(0.005 * RATE);
    });
    const slices = sliceAtAttacks(levels, found, FIND_DEFAULTS);
    slices.forEach((s, i) => {
      expect(s.end).toBeLessThanOrEqual(slices[i + 1]?.start ?? x.length);
    });
  });
});
