import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../../core/audio";
import { GapWatch, HOLE, NEAR, START } from "./gap-watch";

const CHUNK = 2048;
const RATE = 44100;
const random = seededRandom(5);
const noise = (frames = CHUNK): Float32Array => Float32Array.from({ length: frames }, () => 0.01 * (random() - 0.5));
const holed = (from: number, to: number): Float32Array => noise().fill(0, from, to);

/** A watch that has heard an input start. */
function started(underruns = 0): GapWatch {
  const watch = new GapWatch(underruns, RATE);
  for (let i = 0; i < START; i++) watch.take([noise()], underruns);
  return watch;
}
const FROM = START * CHUNK;

describe("gaps of a recording", () => {
  test("a hole with an underrun is a gap, at its own frame", () => {
    const watch = started(3);
    expect(watch.take([noise()], 3)).toBe(0);
    expect(watch.take([holed(1000, 1900)], 9)).toBe(1);
    expect(watch.take([noise()], 9)).toBe(0);
    expect(watch.gaps).toEqual([FROM + CHUNK + 1000]);
  });

  test("a hole of 10, 20, 30 ms … is a gap without any underrun; one frame more or less is not, and over a second neither", () => {
    for (const [length, gaps] of [
      [441, 1],
      [442, 0],
      [440, 0],
      [882, 1],
      [30 * 441, 1],
      [100 * 441, 1],
      [101 * 441, 0],
    ] as const) {
      const watch = started();
      const sound = noise(CHUNK * 30).fill(0, 1000, 1000 + length);
      for (let at = 0; at < sound.length; at += CHUNK) watch.take([sound.subarray(at, at + CHUNK)], 0);
      expect(watch.gaps).toEqual(gaps === 1 ? [FROM + 1000] : []);
    }
  });

  test("the underrun may be counted a little earlier or later, but not long", () => {
    const hole = NEAR + 3;
    for (const [counted, gaps] of [
      [hole - NEAR - 1, 0],
      [hole - NEAR, 1],
      [hole + NEAR, 1],
      [hole + NEAR + 1, 0],
    ]) {
      const watch = started();
      for (let i = 0; i < 3 * NEAR; i++)
        watch.take([i === hole ? holed(0, 500) : noise()], i >= (counted ?? 0) ? 1 : 0);
      expect(watch.gaps).toHaveLength(gaps ?? -1);
    }
  });

  test("a hole goes on from one chunk to the next and is one gap", () => {
    const watch = started();
    watch.take([holed(CHUNK - 100, CHUNK)], 0);
    expect(watch.take([holed(0, 100)], 1)).toBe(1);
    expect(watch.take([holed(0, CHUNK)], 2)).toBe(1);
    expect(watch.take([holed(0, CHUNK)], 3)).toBe(0);
    expect(watch.gaps).toEqual([FROM + CHUNK - 100, FROM + 2 * CHUNK]);
  });

  test("an input that was silent before without an underrun is taken to be one with a gate", () => {
    const watch = started();
    for (let i = 0; i < 2 * NEAR; i++) watch.take([i % 3 === 1 ? holed(0, 900) : noise()], 0);
    expect(watch.take([holed(0, 900)], 5)).toBe(0);
  });

  test("no gap: silence without an underrun, an underrun without a hole, a short hole, one channel still sounding, the silence before the first sound", () => {
    const cases: [Float32Array[], number][] = [
      [[holed(0, 1500)], 0],
      [[noise()], 1],
      [[holed(10, 10 + HOLE - 1)], 1],
      [[holed(0, 1500), noise()], 1],
    ];
    for (const [chunk, underruns] of cases) {
      const watch = started();
      watch.take(
        chunk.map(() => noise()),
        0,
      );
      expect(watch.take(chunk, underruns)).toBe(0);
    }
    const watch = new GapWatch(0, RATE);
    for (let i = 0; i < 2 * START; i++) expect(watch.take([new Float32Array(CHUNK)], 1)).toBe(0);
  });
});
