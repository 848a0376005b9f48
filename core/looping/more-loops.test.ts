import { describe, expect, test } from "@jest/globals";
import { type Loop, newLoop } from "../instrument";
import { otherEnds } from "./ends";
import { findLoops } from "./find-loops";
import { evened, levelCurveOf } from "./flatten";
import { judgeLoop } from "./judge";
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
    expect(even.reason).toMatch(/evened out by/);
    const loop = loopOfCandidate(even);
    expect(pulseOf(pluck, loop, even.start, even.start + 6 * RATE)).toBeLessThan(1);
    expect(pulseOf(pluck, { ...loop, flat: null }, even.start, even.start + 6 * RATE)).toBeGreaterThan(4);
  });

  test("sounds that stay are left as they are", () => {
    const tone = made(3, (t) => 0.3 * Math.sin(2 * Math.PI * 220 * t));
    for (const c of findLoops(sound(tone)).candidates) expect(c.flat).toBeNull();
  });
});

describe("there and back", () => {
  test("a swell may turn where it is its own mirror image; its level never steps", () => {
    // Its one turn is at 2.5 s: a loop forward steps in level, unless it is short.
    const swell = made(4, (t) => (0.3 + 0.1 * Math.cos(2 * Math.PI * 0.2 * t)) * Math.cos(2 * Math.PI * 330 * t));
    const { candidates } = findLoops(sound(swell), { mostPulse: 30, count: 12 });
    const back = candidates.filter((c) => c.mode === "alternating");
    expect(back.length).toBeGreaterThan(0);
    for (const c of back) {
      expect(c.parts.alike).toBeGreaterThan(0.9);
      expect(c.parts.change).toBeLessThan(1.6);
      expect(c.reason).toMatch(/there and back/);
    }
  });
});

describe("loops that somebody made", () => {
  const tone = made(3, (t) => 0.3 * Math.sin(2 * Math.PI * 220.5 * t) + 0.1 * Math.sin(2 * Math.PI * 441 * t + 1));

  test("they are judged as those that are found", () => {
    const { candidates } = findLoops(sound(tone));
    for (const c of candidates.slice(0, 4)) {
      const judged = judgeLoop(sound(tone), loopOfCandidate(c));
      expect(Math.abs((judged?.score ?? 0) - c.score)).toBeLessThan(6);
      expect(judged?.parts.alike).toBeCloseTo(c.parts.alike, 3);
    }
    const good = judgeLoop(sound(tone), newLoop({ start: 44100, end: 44100 + 200 * 150 }));
    const bad = judgeLoop(sound(tone), newLoop({ start: 44100, end: 44100 + 200 * 150 + 100 }));
    expect(good?.score).toBeGreaterThan(85);
    expect(bad?.score).toBeLessThan((good?.score ?? 0) - 30);
  });

  test("whatever they are, with a curve or without, they get a score or none", () => {
    const flat = { amount: 1, from: 0, step: 4000, levels: [0, -10, -20] };
    for (const mode of ["forward", "backward", "alternating"] as const)
      for (const [start, end] of [
        [0, 2],
        [0, tone.length],
        [5, 90],
        [tone.length - 2, tone.length],
      ] as const)
        for (const curve of [null, flat]) {
          const score = judgeLoop(sound(tone), newLoop({ start, end, mode, flat: curve }))?.score;
          expect(score).toBeGreaterThanOrEqual(0);
          expect(score).toBeLessThanOrEqual(100);
        }
    expect(judgeLoop(sound(new Float32Array(1000)), newLoop({ start: 0, end: 10 }))).toBeNull();
  });
});

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

describe("wishes", () => {
  test("short or long ones come first where they are as good", () => {
    const tone = made(5, (t) => 0.3 * Math.sin(2 * Math.PI * 220 * t) + 0.02 * Math.sin(2 * Math.PI * 313 * t));
    const first = (prefer: "short" | "long") => {
      const [c] = findLoops(sound(tone), { prefer }).candidates;
      return c ? (c.end - c.start) / RATE : 0;
    };
    expect(first("short")).toBeLessThan(0.5);
    expect(first("long")).toBeGreaterThan(1.5);
  });
});
