import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { findAttacks, measureFlux } from "./attacks";
import { measureLevels } from "./levels";
import { doubtsOf, type MeasuredSlice } from "./measure";
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

  test("bumps, clicks, speech and false starts are doubted with a reason; a kit is kept whole", () => {
    const slice = (change: Partial<MeasuredSlice>): MeasuredSlice => ({
      start: 0,
      end: 40000,
      onset: 0,
      pitch: 60,
      confidence: 0.9,
      peak: -6,
      loudness: -20,
      tone: 80,
      low: 0,
      body: 0.4,
      clarity: 0.9,
      wander: 0.02,
      ...change,
    });
    const good = [slice({}), slice({}), slice({}), slice({}), slice({})];
    const doubts = doubtsOf([
      ...good,
      slice({ confidence: 0.2, tone: 100 }),
      slice({ end: 3000 }),
      slice({ low: 0.95, confidence: 0.3 }),
      slice({ body: 0.004, confidence: 0.1 }),
      slice({ pitch: 48, wander: 2.5, clarity: 0.7, tone: 75 }),
      slice({ loudness: -70, tone: 110, body: 0.05 }),
    ]);
    expect(doubts.slice(0, 5)).toEqual(["", "", "", "", ""]);
    expect(doubts.slice(5).map((d) => d.split(":")[0])).toEqual([
      "no clear pitch",
      "far shorter than the others",
      "a bump",
      "a click",
      "speech",
      "far softer than the others",
    ]);
    const kit = [slice({ confidence: 0.1, end: 4000 }), slice({ confidence: 0.2, end: 3000 }), slice({ end: 9000 })];
    expect(doubtsOf(kit)).toEqual(["", "", ""]);
    // What occurs often, or resembles what is kept, is no accident: thuds of a kit, dry knocks, the softest of a string, a low string.
    const many = (n: number, change: Partial<MeasuredSlice>) => Array.from({ length: n }, () => slice(change));
    const drums = [
      ...many(20, { confidence: 0.1 }),
      ...many(6, { low: 0.98, confidence: 0.1, tone: 35, body: 0.2, end: 9000 }),
    ];
    expect(doubtsOf(drums)).toEqual(drums.map(() => ""));
    const knocks = [...many(20, { confidence: 0.1 }), ...many(6, { body: 0.01, confidence: 0.1, end: 1500 })];
    expect(doubtsOf(knocks)).toEqual(knocks.map(() => ""));
    const strings = [
      ...many(20, {}),
      slice({ confidence: 0.4, loudness: -60, tone: 84 }),
      slice({ low: 0.8, pitch: 40 }),
    ];
    expect(doubtsOf(strings)).toEqual(strings.map(() => ""));
    // The lowest strings ring on, which no bump does; a few drums of a kind lie one after another, softer and softer; knocks recur.
    const lowest = [
      ...many(20, {}),
      slice({ low: 0.95, pitch: 28, body: 0.8 }),
      slice({ low: 0.95, pitch: 30, body: 0.7 }),
    ];
    expect(doubtsOf(lowest)).toEqual(lowest.map(() => ""));
    const thuds = [0, 7, 14].map((softer) =>
      slice({ low: 0.95, pitch: 33, body: 0.25, end: 16000, tone: 43 + softer, loudness: -20 - softer }),
    );
    const kitOfFew = [...thuds, ...many(30, {})];
    expect(doubtsOf(kitOfFew)).toEqual(kitOfFew.map(() => ""));
    const rings = many(8, { end: 130000, body: 1 });
    const among = [0, 1, 2].flatMap(() => [...rings, slice({ end: 1800, confidence: 0.2, body: 0.02, tone: 105 })]);
    expect(doubtsOf(among)).toEqual(among.map(() => ""));
    // One alone, wherever it is, is still doubted.
    const alone = doubtsOf([
      ...rings,
      slice({ low: 0.95, pitch: 33, body: 0.2, confidence: 0.7, end: 9000 }),
      ...rings,
    ]);
    expect(alone.filter((d) => d !== "")).toEqual(["a bump: hardly anything above 120 Hz"]);
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
