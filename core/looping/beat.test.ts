import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { findBeat } from "./beat";
import { findLoops } from "./find-loops";
import { LoopJudge } from "./judge";
import { made, RATE, testBeat, testSounds } from "./test-sounds";

const sound = (...channels: readonly Float32Array[]) => ({ rate: RATE, channels: [...channels] });

describe("beats", () => {
  test.each([
    [72, 4, 0],
    [104.37, 2, 0],
    [120, 8, 1.234],
    [128, 4, 0.05],
  ])("%d bpm, %d bars, from %d s on: tempo, downbeat, and loops of whole bars within 5 ms", (tempo, bars, lead) => {
    const x = testBeat(tempo, tempo, bars, lead);
    const beat = findBeat(sound(x), 0, x.length);
    // Where strong and weak beats take turns, two of them may be taken for one.
    const times = Math.round(tempo / (beat?.tempo ?? 1));
    expect(times === 1 || times === 2).toBe(true);
    expect(Math.abs(((beat?.tempo ?? 0) * times) / tempo - 1)).toBeLessThan(0.002);
    expect(Math.abs((beat?.downbeat ?? -1) / RATE - lead)).toBeLessThan(0.005);
    const { kind, candidates } = findLoops(sound(x));
    expect(kind).toBe("beat");
    const bar = (4 * 60) / tempo;
    expect(candidates.length).toBeGreaterThan(0);
    for (const { start, end, parts, reason } of candidates) {
      const length = (end - start) / RATE / bar;
      expect(Math.abs(length - Math.round(length)) * bar).toBeLessThan(0.005);
      expect((parts.bars ?? 0) * times).toBeCloseTo(Math.round(length), 1);
      expect(reason).toMatch(/bar/);
      const from = (start / RATE - lead) / bar;
      expect(Math.abs(from - Math.round(from)) * bar).toBeLessThan(0.005);
    }
  });

  test("tones, textures and single hits have none", () => {
    for (const seed of [1, 2])
      for (const [name, channels] of Object.entries(testSounds(seed))) {
        const judge = LoopJudge.of(sound(...channels), {});
        if (typeof judge === "string") throw new Error(`${name}: ${judge}`);
        expect([name, judge.kind]).not.toEqual([name, "beat"]);
      }
    const random = seededRandom(3);
    const hits = made(3, () => 0);
    for (const at of [0.2, 0.61, 1.37, 1.5, 1.93, 2.2, 2.71])
      for (let i = 0; i < 4000; i++) hits[Math.round(at * RATE) + i] = Math.exp(-i / 800) * (random() - 0.5);
    expect(findBeat(sound(hits), 0, hits.length)?.sure ?? 0).toBeLessThan(0.9);
    expect(findBeat(sound(new Float32Array(3 * RATE)), 0, 3 * RATE)).toBeNull();
    expect(findBeat(sound(new Float32Array(10)), 0, 10)).toBeNull();
  });

  test("a beat that is said is believed; a kind that is said too", () => {
    const x = testBeat(7, 100, 4);
    const said = findLoops(sound(x), { kind: "beat", beat: { tempo: 50, downbeat: 0, bar: 4 } });
    expect(said.candidates[0]?.parts.bars).toBeCloseTo(2, 2);
    expect(findLoops(sound(x), { kind: "texture" }).kind).toBe("texture");
    const short = findLoops(sound(made(1, (t) => Math.sin(2000 * t))), {
      kind: "beat",
      beat: { tempo: 20, downbeat: 0, bar: 4 },
    });
    expect(short.none).toMatch(/shorter than a beat/);
  });
});
