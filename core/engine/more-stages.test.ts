import { describe, expect, test } from "@jest/globals";
import { hertzOf } from "../audio";
import { addUnit, type Instrument, newUnit, setParam, together, withUnits } from "../instrument";
import type { UnitKind } from "../units";
import { amplitude, decibels, type Settings } from "./computed-bench";
import { type Bench, bench, peak, RATE, sine } from "./test-bench";

const STAGES = "layers/main/stages" as const;
/** A sine at a key, through one stage alone. */
function through(kind: UnitKind, params: Settings, key = 69, level = 0.2): Bench {
  const b = bench([sine(RATE * 4, 440, level)], [{ root: 69 }], (i: Instrument) => {
    const made = addUnit(STAGES, newUnit(kind, "s")).apply(withUnits(i, STAGES, () => []));
    return together(
      "",
      Object.entries(params).map(([id, value]) => setParam(made, `${STAGES}/s/${id}`, value)),
    ).apply(made);
  });
  b.engine.midi(0x90, key, 100);
  return b;
}
const level = (b: Bench, hertz: number, settle = 4800): number => {
  b.play(settle);
  return decibels(amplitude(b.play(RATE / 2).left, hertz) / 0.2);
};

describe("the ring", () => {
  test("a sine becomes two, as far above as below, half as loud each; by the key or by a frequency", () => {
    for (const key of [57, 69]) {
      const f = hertzOf(key);
      const b = through("ring", { ratio: 0.25 }, key);
      b.play(4800);
      const { left } = b.play(RATE / 2);
      for (const r of [0.75, 1.25]) expect(decibels(amplitude(left, f * r) / 0.2)).toBeCloseTo(-6.02, 1);
      expect(decibels(amplitude(left, f) / 0.2)).toBeLessThan(-80);
    }
    expect(level(through("ring", { tunedBy: "frequency", frequency: 100 }), 540)).toBeCloseTo(-6.02, 1);
    expect(level(through("ring", { mix: 0 }), 440)).toBeCloseTo(0, 1);
  });
});

describe("coarse", () => {
  /** How often another value is held: smaller differences are the envelope's. */
  const moments = (x: Float32Array): number =>
    x.filter((v, i) => i > 0 && Math.abs(v - (x[i - 1] as number)) > 1e-5).length;

  test("so many steps and so many moments", () => {
    const b = through("coarse", { bits: 4, rate: 48000 }, 69, 0.45);
    b.play(4800);
    const steps = new Set([...b.play(RATE / 4).left].map((x) => Math.round(x * 8 * 1000) / 1000));
    expect([...steps].every((s) => Math.abs(s - Math.round(s)) < 0.01)).toBe(true);
    expect(steps.size).toBeGreaterThan(5);
    const held = through("coarse", { bits: 16, rate: 6000 }, 70);
    held.play(4800);
    const { left } = held.play(800);
    const changes = moments(left);
    expect(Math.abs(changes - 100)).toBeLessThanOrEqual(2);
    const higher = through("coarse", { bits: 16, rate: 6000, keyTracking: 1 }, 82);
    higher.play(4800);
    const sound = higher.play(800).left;
    // Twenty-two semitones above middle C.
    const faster = moments(sound);
    expect(Math.abs(faster - 100 * 2 ** (22 / 12))).toBeLessThanOrEqual(4);
  });
});

describe("the transient", () => {
  test("what begins is so much louder, what goes on comes to its own gain", () => {
    const plain = through("transient", {});
    const first = peak(plain.play(600).left);
    expect(peak(through("transient", { attack: 12, length: 0.1 }).play(600).left) / first).toBeGreaterThan(2.5);
    expect(peak(through("transient", { attack: -20, length: 0.1 }).play(600).left) / first).toBeLessThan(0.4);
    expect(level(through("transient", { attack: 12, sustain: -6 }), 440, RATE)).toBeCloseTo(-6, 0);
    expect(level(plain, 440, RATE)).toBeCloseTo(0, 1);
  });
});

describe("filters and shapers by the key", () => {
  test("a cutoff that follows the keys stays the same interval above each", () => {
    const settings = { type: "low", slope: "12", model: "clean", cutoff: 523.25, resonance: 0 };
    const at = (key: number, keyTracking: number) =>
      level(through("filter", { ...settings, keyTracking }, key), hertzOf(key));
    const two = at(60, 0);
    expect(at(36, 1)).toBeCloseTo(two, 1);
    expect(at(84, 1)).toBeCloseTo(two, 1);
    expect(at(84, 0)).toBeLessThan(two - 12);
    expect(at(48, 0.5)).toBeGreaterThan(two);
  });

  test("it follows a bend under a held note, too", () => {
    const b = through("filter", { type: "low", slope: "24", model: "clean", cutoff: 400, keyTracking: 1 }, 60);
    const before = level(b, hertzOf(60));
    b.engine.midi(0xe0, 127, 127);
    expect(level(b, hertzOf(62))).toBeCloseTo(before, 1);
  });

  test("low notes are driven less by so much an octave", () => {
    const third = (key: number, lowNoteDrive: number) => {
      const b = through("shaper", { curve: "soft", drive: 18, lowNoteDrive, mix: 1 }, key);
      b.play(4800);
      const { left } = b.play(RATE / 2);
      return decibels(amplitude(left, 3 * hertzOf(key)) / amplitude(left, hertzOf(key)));
    };
    expect(third(36, 0)).toBeCloseTo(third(60, 0), 0);
    expect(third(36, -6)).toBeLessThan(third(36, 0) - 6);
    expect(third(72, -6)).toBeCloseTo(third(72, 0), 1);
  });
});
