import { describe, expect, test } from "@jest/globals";
import { findLoops } from "./find-loops";
import { heldUntil, trendOf } from "./sustain";
import { made, RATE, swinging } from "./test-sounds";

const sound = (...channels: Float32Array[]) => ({ rate: RATE, channels });
const turn = (hertz: number, t: number) => Math.sin(2 * Math.PI * hertz * t);

describe("what is held, and its trend", () => {
  test("a release is no part of what is held, wherever it begins; what falls evenly is held to its end", () => {
    for (const at of [80, 120, 180]) {
      const levels = Float64Array.from({ length: 220 }, (_, i) => (i < at ? -20 - 0.01 * i : -20 - 1.2 * (i - at)));
      expect(Math.abs(heldUntil(levels, 0.02) - at)).toBeLessThanOrEqual(4);
    }
    const even = Float64Array.from({ length: 220 }, (_, i) => -20 - 0.3 * i + Math.sin(i));
    expect(heldUntil(even, 0.02)).toBe(220);
  });

  test("a trend is the straight line, and goes through a swing", () => {
    const line = Float64Array.from({ length: 200 }, (_, i) => -10 - 0.05 * i);
    const swings = line.map((level, i) => level + 4 * Math.sin((2 * Math.PI * i) / 20));
    trendOf(line, 25).forEach((level, i) => {
      expect(level).toBeCloseTo(line[i] as number, 9);
    });
    const trend = trendOf(swings, 25);
    for (let i = 30; i < 170; i++) expect(Math.abs((trend[i] as number) - (line[i] as number))).toBeLessThan(0.8);
  });

  test.each([
    ["tremolo", swinging(8, 5)],
    ["beating", made(5, (t) => 0.2 * turn(220, t) + 0.14 * turn(221.7, t))],
  ])("the movement of %s is left in its loops, for nothing dies away but in its release", (_, held) => {
    const released = held.map((x, i) => (i > 4.5 * RATE ? x * Math.exp(-9 * (i / RATE - 4.5)) : x));
    const { candidates } = findLoops(sound(released));
    const [first] = candidates;
    expect(first).toMatchObject({ flat: null });
    expect(first?.parts.lost).toBeLessThan(1);
  });

  test("a tremolo that dies away is evened out by its fall alone", () => {
    const falling = swinging(8, 5).map((x, i) => x * 10 ** ((-6 * i) / RATE / 20));
    const even = findLoops(sound(falling)).candidates.find((c) => c.flat);
    expect(even?.parts.lost).toBeLessThan(2);
    const { levels = [], step = 1 } = even?.flat ?? {};
    const slope = ((levels.at(-20) as number) - (levels[20] as number)) / (((levels.length - 40) * step) / RATE);
    expect(Math.abs(slope + 6)).toBeLessThan(1);
  });
});
