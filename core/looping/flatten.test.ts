import { describe, expect, test } from "@jest/globals";
import type { Loop } from "../instrument";
import { findLoops } from "./find-loops";
import { evened, levelCurveOf } from "./flatten";
import { loopOfCandidate } from "./loop-candidate";
import { unrolled } from "./seam";
import { made, RATE } from "./test-sounds";

const sound = (...channels: readonly Float32Array[]) => ({ rate: RATE, channels: [...channels] });
const levelOf = (x: Float32Array) => 10 * Math.log10(x.reduce((s, v) => s + v * v, 0) / x.length);
/** Decibels between the loudest and the faintest 50 ms of a playback between two times. */
function pulseOf(x: Float32Array, loop: Loop, from: number, to: number): number {
  const step = Math.round(0.05 * RATE);
  const levels = [];
  for (let at = from; at < to; at += step) levels.push(levelOf(unrolled(x, loop, 1, at, step)));
  return Math.max(...levels) - Math.min(...levels);
}

describe("sounds that die away", () => {
  const pluck = made(
    4,
    (t) => 0.6 * Math.exp(-1.6 * t) * (Math.sin(2 * Math.PI * 196 * t) + 0.4 * Math.sin(4 * Math.PI * 196 * t)),
    0.002,
  );

  test("a level curve is the sound's level, and evening out by it leaves none of it", () => {
    const curve = levelCurveOf([pluck], RATE, RATE / 2, 3 * RATE, RATE / 196);
    const fall = 1.6 * 20 * Math.log10(Math.E);
    for (const [n, level] of curve.levels.entries()) {
      const t = (curve.from + n * curve.step) / RATE;
      expect(level - (curve.levels[0] as number)).toBeCloseTo(-fall * (t - 0.5), 0);
    }
    const [x] = evened(sound(pluck), curve, RATE / 2).channels as [Float32Array];
    const at = (t: number) => levelOf(x.subarray(t * RATE, t * RATE + 4500));
    for (const t of [1, 1.7, 2.5]) expect(Math.abs(at(t) - at(0.5))).toBeLessThan(0.3);
    expect(levelOf(pluck.subarray(2.5 * RATE, 2.5 * RATE + 4500))).toBeLessThan(at(2.5) - 20);
  });

  test("among the candidates is one that is kept even: long, and without a pulse as it will sound", () => {
    const { candidates } = findLoops(sound(pluck));
    const even = candidates.find((c) => c.flat !== null);
    if (!even) throw new Error("none is kept even");
    expect((even.end - even.start) / RATE).toBeGreaterThan(0.4);
    expect(even.parts.pulse).toBeLessThan(1);
    expect(even.reason).toMatch(/levelled out by/);
    const loop = loopOfCandidate(even);
    expect(pulseOf(pluck, loop, even.start, even.start + 6 * RATE)).toBeLessThan(1);
    expect(pulseOf(pluck, { ...loop, flat: null }, even.start, even.start + 6 * RATE)).toBeGreaterThan(4);
  });

  test("sounds that stay are left as they are", () => {
    const tone = made(3, (t) => 0.3 * Math.sin(2 * Math.PI * 220 * t));
    for (const c of findLoops(sound(tone)).candidates) expect(c.flat).toBeNull();
  });
});
