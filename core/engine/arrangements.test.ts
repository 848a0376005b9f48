import { describe, expect, test } from "@jest/globals";
import {
  ARRANGEMENTS,
  addArrangement,
  checkInstrument,
  liveLinks,
  newInstrument,
  pitchBeginning,
  punch,
  removeLayer,
  setParam,
} from "../instrument";
import { computed } from "./computed-bench";
import { benchOf, peak, RATE, rms } from "./test-bench";

describe.each(ARRANGEMENTS)("$label", (arrangement) => {
  const { members } = arrangement;
  const ids = members.map((_, m) => `a${m}`);
  const doc = addArrangement(
    arrangement,
    ids,
    members.map((m) => m.name),
  ).apply(newInstrument("bench", "Bench"));

  test("is a sound document, its layers are led into each other, and it sounds", () => {
    expect(checkInstrument(JSON.parse(JSON.stringify(doc))).ok).toBe(true);
    expect(liveLinks(doc)).toHaveLength(members.filter((m) => m.hears !== undefined).length);
    const alone = removeLayer("main").apply(doc);
    const b = benchOf(setParam(alone, "effects/reverb/mix", 0).apply(alone));
    b.engine.midi(0x90, 57, 100);
    const { left } = b.play(9600);
    expect(rms(left)).toBeGreaterThan(0.002);
    expect(peak(left)).toBeLessThan(0.95);
  });
});

describe("beginnings in one action", () => {
  /** Pitch by the times between rising zero crossings, in hertz. */
  const pitchOf = (x: Float32Array): number => {
    const at = [...x.keys()].filter((i) => i > 0 && (x[i - 1] as number) < 0 && (x[i] as number) >= 0);
    return ((at.length - 1) * RATE) / ((at.at(-1) ?? 1) - (at[0] ?? 0));
  };
  const sine = computed("oscillator", { wave: "sine" });

  test.each(["falls", "rises"] as const)("the pitch %s to the key's", (way) => {
    const doc = pitchBeginning(sine, "main", way, { envelope: "e", route: "r" }).apply(sine);
    expect(checkInstrument(JSON.parse(JSON.stringify(doc))).ok).toBe(true);
    const b = benchOf(doc);
    b.engine.midi(0x90, 69, 100);
    const first = pitchOf(b.play(960).left);
    b.play(RATE / 2);
    expect(pitchOf(b.play(RATE / 2).left)).toBeCloseTo(440, 0);
    if (way === "falls") expect(first).toBeGreaterThan(700);
    else expect(first).toBeLessThan(330);
  });

  test("a punch holds the level, then lets it fall", () => {
    const doc = punch(sine, "main").apply(sine);
    const b = benchOf(doc);
    b.engine.midi(0x90, 69, 100);
    const held = peak(b.play(960).left);
    b.play(RATE / 2);
    expect(peak(b.play(4800).left) / held).toBeCloseTo(0.4, 1);
  });
});
