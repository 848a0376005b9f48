import { describe, expect, test } from "@jest/globals";
import { FIND_DEFAULTS } from "../analysis";
import { seededRandom } from "../audio";
import { SEARCH } from "../instrument";
import { judgeShot } from "./judge-shot";
import { ShotFollower } from "./shot-follower";
import { makeShots } from "./shots";
import { RATE, tone } from "./test-slices";

describe("following a recording", () => {
  test("each sound is heard out, from just before its attack, whatever the chunks; cues and pauses are ignored", () => {
    const random = seededRandom(3);
    const x = Float32Array.from({ length: RATE * 9 }, () => (random() - 0.5) * 0.002);
    const onsets = [1.2, 3.4, 5.2, 7.1].map((t) => Math.round(t * RATE));
    for (const at of onsets)
      tone(60, 0.4).forEach((v, i) => {
        x[at + i] = (x[at + i] as number) + v;
      });
    for (const chunk of [77, 1024]) {
      const follower = new ShotFollower({ rate: RATE });
      const found: number[] = [];
      for (let at = 0; at < x.length; at += chunk) {
        const captured = follower.take(x.slice(at, at + chunk));
        if (!captured) continue;
        found.push(captured.onset);
        expect(captured.samples.length).toBeGreaterThan(0.5 * RATE);
        expect(captured.end).toBeGreaterThan(captured.onset + 0.3 * RATE);
        // The second sound falls into the cue after the first.
        follower.listen(found.length === 1 ? 2 : 0);
      }
      expect(found).toHaveLength(3);
      [onsets[0], onsets[2], onsets[3]].forEach((at, i) => {
        expect(Math.abs((found[i] ?? 0) - (at ?? 0))).toBeLessThanOrEqual(0.01 * RATE);
      });
      expect(follower.floor ?? 0).toBeLessThan(-55);
    }
  });

  test("what rings beyond the longest isn't the next sound; a stroke over it is; a settled threshold is kept to", () => {
    const random = seededRandom(9);
    const x = Float32Array.from({ length: RATE * 12 }, () => (random() - 0.5) * 0.002);
    // A gong that rings for eight seconds, and a stroke in its tail.
    for (let i = 0; i < RATE * 8; i++)
      x[RATE + i] = (x[RATE + i] as number) + 0.5 * Math.sin(i * 0.3) * Math.exp((-0.6 * i) / RATE);
    const stroke = Math.round(6.5 * RATE);
    tone(72, 0.6).forEach((v, i) => {
      x[stroke + i] = (x[stroke + i] as number) + v;
    });
    const follow = (options: { threshold?: number; longest?: number }) => {
      const follower = new ShotFollower({ rate: RATE, ...options });
      const found: number[] = [];
      for (let at = 0; at < x.length; at += 400) {
        const captured = follower.take(x.slice(at, at + 400));
        if (!captured) continue;
        found.push(captured.onset / RATE);
        follower.listen();
      }
      return found;
    };
    const found = follow({ longest: 2 });
    expect(found).toHaveLength(2);
    expect(found[0]).toBeCloseTo(1, 1);
    expect(found[1]).toBeCloseTo(6.5, 1);
    // So high above the room nothing rises.
    expect(follow({ threshold: 60, longest: 2 })).toEqual([]);
  });

  test("a sound is judged: clipped, too soft, off pitch, unpitched, the wrong way round", () => {
    const [soft, hard] = makeShots({ notes: [60], strengths: 2, repeats: 1 }) as [
      ReturnType<typeof makeShots>[number],
      ReturnType<typeof makeShots>[number],
    ];
    const judge = (samples: Float32Array, shot = soft, landed: Parameters<typeof judgeShot>[3] = []) =>
      judgeShot({ rate: RATE, channels: [samples] }, shot, -60, landed).problems.map((p) => p.split(":")[0]);
    expect(judge(tone(60, 0.3))).toEqual([]);
    expect(judge(tone(60, 2).map((x) => Math.max(-1, Math.min(1, x))))).toContain("it clipped");
    expect(judge(tone(60, 0.002))).toContain("it hardly stands above the room");
    expect(judge(tone(64, 0.3))).toEqual(["it sounds like E4, but C4 was asked for"]);
    const random = seededRandom(1);
    expect(judge(tone(60, 0.3).map((_, i) => (random() - 0.5) * Math.exp((-6 * i) / RATE)))).toEqual([
      "no clear pitch",
    ]);
    const landed = [{ note: 60, strength: 1, peak: -10 }];
    expect(judge(tone(60, 0.2), hard, landed)).toEqual(["too soft for this velocity layer"]);
    expect(judge(tone(60, 0.5), hard, landed)).toEqual([]);
    expect(judge(tone(60, 0.5), soft, [{ note: 60, strength: 2, peak: -8 }])).toEqual([
      "too hard for this velocity layer",
    ]);
    expect(judge(tone(64, 0.3), { ...soft, note: null })).toEqual([]);
    const within = (samples: Float32Array, tolerance: number) =>
      judgeShot({ rate: RATE, channels: [samples] }, soft, -60, [], tolerance).problems;
    expect(within(tone(64, 0.3), 4.5)).toEqual([]);
    expect(within(tone(64, 0.3), 0)).toEqual([]);
    const bell = tone(60, 0.3).map((_, i) => (random() - 0.5) * Math.exp((-6 * i) / RATE));
    expect(within(bell, 0)).toEqual([]);
  });
});

test("a new take is searched as the finder would by itself", () => {
  expect(SEARCH).toMatchObject(FIND_DEFAULTS);
});
