import { describe, expect, test } from "@jest/globals";
import { BEFORE, bakeCycles, CycleMaker, cycleOf, mapsOf } from "./wave-cycles";

/** The points of a cycle in each of its sets. */
function tablesOf(cycle: Float32Array): Float32Array[] {
  const maps = mapsOf(cycle.length);
  const outs = maps.map((m) => new Float32Array(m.stride));
  new CycleMaker(cycle.length, maps).make((i) => cycle[i] as number, outs);
  return outs;
}

const wave = (length: number, f: (turn: number) => number): Float32Array =>
  Float32Array.from({ length }, (_, i) => f(i / length));

describe("cycles of a wavetable", () => {
  test.each([2048, 600, 64, 1777])(
    "a cycle of %d frames stands in its richest set as it was, without what stands still",
    (length) => {
      const cycle = wave(length, (t) => 0.2 + 0.5 * Math.sin(2 * Math.PI * t) + 0.3 * Math.cos(2 * Math.PI * 3 * t));
      const rich = tablesOf(cycle).at(-1) as Float32Array;
      const points = rich.length - 3;
      for (let i = 0; i < points; i += 7) {
        const t = i / points;
        const wanted = 0.5 * Math.sin(2 * Math.PI * t) + 0.3 * Math.cos(2 * Math.PI * 3 * t);
        expect(rich[i + BEFORE]).toBeCloseTo(wanted, 5);
      }
      expect(rich[0]).toBeCloseTo(rich[points] as number, 6);
      expect(rich[points + 1]).toBeCloseTo(rich[1] as number, 6);
      expect(rich[points + 2]).toBeCloseTo(rich[2] as number, 6);
    },
  );

  test("the cycles of a sound lie set after set, in each cycle after cycle", () => {
    const [first, second] = [wave(300, (t) => Math.sin(2 * Math.PI * t)), wave(300, (t) => 1 - 2 * t)];
    const both = Float32Array.from([...first, ...second, 9, 9]);
    const { count, floats } = bakeCycles(both.length, 300, (f) => both[f] ?? 0);
    expect(count).toBe(2);
    const wanted = tablesOf(first).flatMap((set, m) => [...set, ...(tablesOf(second)[m] as Float32Array)]);
    expect([...floats]).toEqual(wanted);
  });

  test("each set has the harmonics that it says, and no more", () => {
    const saw = wave(2048, (t) => 1 - 2 * t);
    const maps = mapsOf(2048);
    expect(maps.map((m) => m.harmonics)).toEqual([1, 2, 4, 8, 16, 32, 64, 128, 256, 512, 1023]);
    const first = tablesOf(saw)[0] as Float32Array;
    for (let i = 0; i < 512; i += 5)
      expect(first[i + BEFORE]).toBeCloseTo((2 / Math.PI) * Math.sin((2 * Math.PI * (i + 0.125)) / 512), 2);
  });

  test("the length of a cycle: as asked for, else a usual one that divides the sound, else all of it", () => {
    expect(cycleOf(2048 * 64, 0)).toBe(2048);
    expect(cycleOf(1024 * 3, 0)).toBe(1024);
    expect(cycleOf(600 * 10, 0)).toBe(600);
    expect(cycleOf(1777, 0)).toBe(1777);
    expect(cycleOf(44100, 0)).toBe(8192);
    expect(cycleOf(44100, 441)).toBe(441);
    expect(cycleOf(100, 441)).toBe(100);
    expect(cycleOf(0, 0)).toBe(1);
  });
});
