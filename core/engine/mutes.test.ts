import { describe, expect, test } from "@jest/globals";
import { addGroup, type Instrument, moveZones, newGroup, newUnit, setParam, together } from "../instrument";
import { type Bench, bench, RATE } from "./test-bench";
import { REASON } from "./trace";

/** Four sounds of different constant levels: near and far in the first group, near and without a microphone in the other. */
const LEVELS = [0.02, 0.04, 0.08, 0.16];
const sounds = LEVELS.map((level) => ({ rate: RATE, channels: [new Float32Array(96000).fill(level)] }));
const ONE = "layers/main/groups/main";
const TWO = "layers/main/groups/other";

function two(more: (i: Instrument) => Instrument = (i) => i): Bench {
  const mics = ["near", "far", "near", null];
  return bench(
    sounds,
    mics.map((mic, sound) => ({ sound, mic, track: 0 })),
    (i) =>
      more(
        together("", [
          addGroup("main", newGroup("other", "Other")),
          moveZones(new Set(["z2", "z3"]), "main", "other"),
        ]).apply({ ...i, mics: ["near", "far"].map((id) => newUnit("mic", id, id)) }),
      ),
  );
}

/** The sum of the levels that sound a little after a key went down, and silence afterwards. */
function heard(b: Bench): number {
  b.engine.midi(0x90, 60, 100);
  const value = b.play(1024).left[1000] as number;
  b.engine.midi(0xb0, 120, 0);
  b.play(2048);
  return Math.round(value * 1000) / 1000;
}

describe("what is muted while somebody works", () => {
  test("groups and microphones are silent, or those alone that are to be heard alone; muted stays muted; what isn't there doesn't count", () => {
    const b = two();
    const by = (muted: string[], alone: string[]) => {
      b.engine.mute(muted, alone);
      return heard(b);
    };
    expect(by([], [])).toBe(0.3);
    expect(by([ONE], [])).toBe(0.24);
    expect(by(["mics/near"], [])).toBe(0.2);
    expect(by([], [TWO])).toBe(0.24);
    expect(by([], ["mics/near"])).toBe(0.1);
    expect(by([], [TWO, "mics/near"])).toBe(0.08);
    expect(by([TWO], [TWO, ONE])).toBe(0.06);
    expect(by(["mics/gone", "layers/gone/groups/main"], ["mics/gone"])).toBe(0.3);
    b.engine.mute([], ["mics/near"]);
    heard(b);
    const { at = [] } = b.engine.trace.drain().at(-1) ?? {};
    expect(at.map((z) => [z.zone, z.reason]).sort()).toEqual([
      [0, REASON.played],
      [1, REASON.muted],
      [2, REASON.played],
      [3, REASON.muted],
    ]);
  });

  test("what is to be heard again is heard with the very next note; repeats go on as if nothing had been muted", () => {
    const b = bench(
      sounds,
      LEVELS.map((_, n) => ({ sound: n, repeat: n + 1, track: 0 })),
    );
    expect([heard(b), heard(b)]).toEqual([0.02, 0.04]);
    b.engine.mute([ONE], []);
    expect([heard(b), heard(b)]).toEqual([0, 0]);
    b.engine.mute([], []);
    expect([heard(b), heard(b)]).toEqual([0.08, 0.16]);
  });

  test("under a held note it fades out without a step, at once; what is heard goes on as it was", () => {
    const b = two();
    b.engine.midi(0x90, 60, 100);
    b.play(4800);
    b.engine.mute([ONE], []);
    const turning = b.play(4800).left;
    const steepest = turning.reduce((most, x, i) => Math.max(most, Math.abs(x - (turning[i - 1] ?? x))), 0);
    expect(steepest).toBeLessThan(0.002);
    expect(turning[4000]).toBeCloseTo(0.24, 3);
  });

  test("a new plan changes nothing of it: what comes into a muted group is silent, and what sounds there too once it has come", () => {
    const b = two();
    b.engine.mute([TWO], []);
    b.engine.midi(0x90, 60, 100);
    b.play(4800);
    b.change(moveZones(new Set(["z0"]), "main", "other").apply(b.instrument));
    b.play(4800);
    expect(b.play(100).left[50]).toBeCloseTo(0.04, 3);
    b.engine.midi(0xb0, 120, 0);
    b.play(2048);
    expect(heard(b)).toBe(0.04);
    const level = setParam(b.instrument, `${ONE}/level`, -6).apply(b.instrument);
    b.change(level);
    expect(heard(b)).toBeCloseTo(0.06 / 2, 2);
  });
});
