import { describe, expect, test } from "@jest/globals";
import { newLoop } from "../instrument";
import { findLoops } from "./find-loops";
import { judgeLoop } from "./judge";
import { loopOfCandidate } from "./loop-candidate";
import { made, RATE } from "./test-sounds";

const sound = (...channels: readonly Float32Array[]) => ({ rate: RATE, channels: [...channels] });

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
