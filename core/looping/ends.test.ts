import { describe, expect, test } from "@jest/globals";
import { otherEnds } from "./ends";
import { made, RATE } from "./test-sounds";

const sound = (...channels: readonly Float32Array[]) => ({ rate: RATE, channels: [...channels] });

describe("one end by itself", () => {
  test("its places are whole periods from the other, in order, inside the region", () => {
    const tone = made(2, (t) => 0.3 * Math.sin(2 * Math.PI * 220.5 * t));
    const loop = { start: 30000, end: 50000 };
    for (const which of ["start", "end"] as const) {
      const ends = otherEnds(sound(tone), loop, which);
      expect(ends.length).toBeGreaterThan(20);
      const fixed = which === "start" ? loop.end : loop.start;
      ends.forEach((at, i) => {
        const periods = Math.abs(at - fixed) / 200;
        expect(Math.abs(periods - Math.round(periods)) * 200).toBeLessThanOrEqual(1.01);
        expect(at).toBeGreaterThan(ends[i - 1] ?? 0);
        expect(Math.sign(at - fixed)).toBe(which === "start" ? -1 : 1);
      });
    }
    expect(otherEnds(sound(new Float32Array(9)), { start: 0, end: 4 }, "end")).toEqual([]);
    expect(otherEnds(sound(tone), { start: 3, end: 5 }, "start")).toEqual([]);
  });
});
