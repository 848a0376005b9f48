import { describe, expect, test } from "@jest/globals";
import { PitchFinder } from "../analysis";
import { hertzOf } from "../audio";
import { readScale, tuneKeys } from "../formats";
import { addRoute, type Instrument, setParam, setTuning } from "../instrument";
import { bench, newLoop, peak, RATE, rms, sine, steepest } from "./test-bench";

const set =
  (...values: readonly (readonly [string, number | string])[]) =>
  (i: Instrument): Instrument =>
    values.reduce((doc, [address, value]) => setParam(doc, address, value).apply(doc), i);
const tone = sine(RATE, hertzOf(60), 0.3);
const looped = { root: 60, loop: newLoop({ start: 9000, end: 39000, fade: 4000 }) };
const finder = new PitchFinder(RATE);
const pitchOf = (x: Float32Array): number => finder.find(x).note ?? Number.NaN;
const settled = (b: ReturnType<typeof bench>, seconds = 0.3): number => {
  b.play(Math.round(seconds * RATE));
  return pitchOf(b.play(9600).left);
};
const EQUAL_19 = `19\n19\n${Array.from({ length: 18 }, (_, i) => `${((i + 1) * 1200) / 19}${(i + 1) % 19 === 0 ? "." : ""}`).join("\n")}\n2/1\n`;

describe("one note at a time", () => {
  test.each([
    ["last", [60, 67, 64], 64],
    ["high", [60, 67, 64], 67],
    ["low", [60, 67, 64], 60],
  ] as const)("priority %s", (priority, keys, expected) => {
    const b = bench([tone], [looped], set(["play/voiceMode", "mono"], ["play/priority", priority]));
    for (const key of keys) {
      b.engine.midi(0x90, key, 100);
      b.play(2000);
    }
    expect(settled(b)).toBeCloseTo(expected, 1);
    expect(b.engine.status().voices).toBe(1);
  });

  test("letting the sounding key go returns to the one still held; letting all go ends it", () => {
    const b = bench([tone], [looped], set(["play/voiceMode", "mono"], ["layers/main/amp/release", 0.05]));
    b.engine.midi(0x90, 60, 100);
    b.engine.midi(0x90, 67, 100, 3000);
    b.engine.midi(0x80, 67, 0, 9000);
    b.play(9000);
    expect(settled(b)).toBeCloseTo(60, 1);
    b.engine.midi(0x80, 60, 0);
    b.play(RATE / 4);
    expect(b.engine.status().voices).toBe(0);
  });

  test.each(["mono", "legato"])(
    "a chord that was held when notes became one at a time (%s) ends with its keys",
    (mode) => {
      const short = set(["layers/main/amp/release", 0.05]);
      for (const order of [
        [60, 64, 67, 72],
        [72, 60, 64, 67],
        [60, 72, 67, 64],
      ]) {
        const b = bench([tone], [looped], short);
        for (const key of [60, 64, 67]) b.engine.midi(0x90, key, 100);
        b.play(4800);
        b.change(set(["play/voiceMode", mode])(b.instrument));
        b.engine.midi(0x90, 72, 100);
        b.play(4800);
        for (const key of order) {
          b.engine.midi(0x80, key, 0);
          b.play(4800);
        }
        b.play(RATE / 2);
        expect(b.engine.status().voices).toBe(0);
      }
    },
  );

  test("of a chord that was held the line goes on in a note that sounds still, without striking it anew", () => {
    const b = bench([tone], [looped], set(["layers/main/amp/release", 0.05]));
    b.engine.midi(0x90, 60, 100);
    b.play(4800);
    b.change(set(["play/voiceMode", "mono"])(b.instrument));
    b.engine.midi(0x90, 67, 100);
    b.play(4800);
    b.engine.midi(0x80, 67, 0);
    expect(settled(b)).toBeCloseTo(60, 1);
    expect(b.engine.status().voices).toBe(1);
    b.engine.midi(0x80, 60, 0);
    b.play(RATE / 4);
    expect(b.engine.status().voices).toBe(0);
  });

  test("bound: the envelope goes on, struck anew: it begins again", () => {
    const level = (mode: string) => {
      const b = bench([tone], [looped], set(["play/voiceMode", mode], ["layers/main/amp/attack", 0.2]));
      b.engine.midi(0x90, 60, 100);
      b.play(RATE / 2);
      b.engine.midi(0x90, 62, 100);
      b.play(480);
      return rms(b.play(960).left);
    };
    expect(level("legato")).toBeGreaterThan(0.2);
    expect(level("mono")).toBeLessThan(0.05);
  });

  test("bound to a key of another zone: that zone takes over without a new attack and without a step", () => {
    const b = bench(
      [tone, sine(RATE, hertzOf(72), 0.3)],
      [
        { ...looped, keyHigh: 65 },
        { ...looped, sound: 1, root: 72, keyLow: 66 },
      ],
      set(["play/voiceMode", "legato"], ["layers/main/amp/attack", 0.3]),
    );
    b.engine.midi(0x90, 60, 100);
    b.play(RATE / 2);
    b.engine.midi(0x90, 72, 100);
    const { left } = b.play(RATE / 4);
    expect(steepest(left)).toBeLessThan((0.3 * 2 * Math.PI * hertzOf(72)) / RATE + 0.01);
    expect(rms(left.subarray(600, 3000))).toBeGreaterThan(0.18);
    expect(pitchOf(left.subarray(2400))).toBeCloseTo(72, 1);
    expect(b.engine.trace.drain()).toHaveLength(2);
  });

  test("bound without a glide: the same voice goes to the new pitch at once", () => {
    const b = bench([tone], [looped], set(["play/voiceMode", "legato"]));
    b.engine.midi(0x90, 60, 100);
    b.play(4800);
    b.engine.midi(0x90, 67, 100);
    expect(settled(b, 0.02)).toBeCloseTo(67, 1);
    b.engine.midi(0x80, 67, 0);
    expect(settled(b, 0.02)).toBeCloseTo(60, 1);
    expect(b.engine.status().voices).toBe(1);
  });

  test("the trace says that a note is bound, or waits", () => {
    const b = bench([tone], [looped], set(["play/voiceMode", "legato"], ["play/priority", "high"]));
    for (const key of [60, 64, 62]) b.engine.midi(0x90, key, 100);
    b.play(128);
    expect(b.engine.trace.drain().map((t) => t.bound)).toEqual(["no", "bound", "waits"]);
  });
});

describe("glide", () => {
  /** Frames from the second key to where the pitch has come to the new note. */
  const timeOf = (by: string, semitones: number, seconds: number, when = "legato", gap = 0) => {
    const b = bench(
      [sine(2 * RATE, 1000, 0.3)],
      [{ root: 60, loop: newLoop({ start: 24000, end: 72000, fade: 0 }) }],
      set(
        ["play/voiceMode", "legato"],
        ["play/glide", seconds],
        ["play/glideBy", by],
        ["play/glideWhen", when],
        ["layers/main/amp/release", 0.01],
      ),
    );
    b.engine.midi(0x90, 60, 100);
    if (gap > 0) b.engine.midi(0x80, 60, 0, 4800 - gap);
    b.play(4800);
    b.engine.midi(0x90, 60 + semitones, 100);
    const { left } = b.play(Math.round(RATE * (seconds * (by === "rate" ? Math.abs(semitones) / 12 : 1) + 0.3)));
    const target = 1000 * 2 ** (semitones / 12);
    // Periods between rising zero crossings, until they are the target's for good.
    const crossings: number[] = [];
    for (let i = 1; i < left.length; i++) {
      const [p, q] = [left[i - 1] as number, left[i] as number];
      if (p < 0 && q >= 0) crossings.push(i - 1 + p / (p - q));
    }
    for (let i = crossings.length - 1; i > 0; i--) {
      const f = RATE / ((crossings[i] as number) - (crossings[i - 1] as number));
      if (Math.abs(1200 * Math.log2(f / target)) > 6) return (crossings[i] as number) / RATE;
    }
    return 0;
  };

  test.each([0.2, 0.5])("by time: %f s for any distance, within a hundredth", (seconds) => {
    expect(Math.abs(timeOf("time", 12, seconds) / seconds - 1)).toBeLessThan(0.012);
    expect(Math.abs(timeOf("time", -7, seconds) / seconds - 1)).toBeLessThan(0.02);
  });

  test("by octave: twice as long for twice as far", () => {
    expect(timeOf("rate", 12, 0.4)).toBeCloseTo(0.4, 1);
    expect(timeOf("rate", 6, 0.4)).toBeCloseTo(0.2, 1);
  });

  test("apart from each other keys glide only when they always do", () => {
    expect(timeOf("time", 12, 0.3, "legato", 2400)).toBeLessThan(0.02);
    expect(timeOf("time", 12, 0.3, "always", 2400)).toBeGreaterThan(0.28);
  });
});

describe("pedals", () => {
  test("sostenuto holds what was down when it was pressed, and nothing else", () => {
    const b = bench([tone], [looped], set(["layers/main/amp/release", 0.02]));
    b.engine.midi(0x90, 60, 100);
    b.engine.midi(0xb0, 66, 127, 100);
    b.engine.midi(0x90, 64, 100, 200);
    b.engine.midi(0x80, 60, 0, 300);
    b.engine.midi(0x80, 64, 0, 400);
    b.play(RATE / 4);
    expect(b.engine.status().voices).toBe(1);
    b.engine.midi(0xb0, 66, 0);
    b.play(RATE / 4);
    expect(b.engine.status().voices).toBe(0);
  });

  test("what both pedals hold waits for both", () => {
    const b = bench([tone], [looped], set(["layers/main/amp/release", 0.02]));
    b.engine.midi(0x90, 60, 100);
    b.engine.midi(0xb0, 66, 127, 10);
    b.engine.midi(0xb0, 64, 127, 20);
    b.engine.midi(0x80, 60, 0, 300);
    b.engine.midi(0xb0, 66, 0, 400);
    b.play(4800);
    expect(b.engine.status().voices).toBe(1);
    b.engine.midi(0xb0, 64, 0);
    b.play(RATE / 4);
    expect(b.engine.status().voices).toBe(0);
  });
});

describe("tuning", () => {
  test.each([60, 63, 67, 79, 41])("nineteen equal steps: key %i", (key) => {
    const keys = tuneKeys(readScale(EQUAL_19));
    const b = bench([tone], [looped], (i) => setTuning({ name: "19", keys }).apply(i));
    b.engine.midi(0x90, key, 100);
    expect(Math.abs(settled(b) - (60 + ((key - 60) * 12) / 19)) * 100).toBeLessThan(1);
  });

  test("a key that a tuning leaves silent is silent, and the trace says so", () => {
    const b = bench([tone], [looped], (i) =>
      setTuning({ name: "gaps", keys: Array.from({ length: 128 }, (_, k) => (k === 61 ? null : k)) }).apply(i),
    );
    b.engine.midi(0x90, 61, 100);
    expect(peak(b.play(500).left)).toBe(0);
    expect(b.engine.trace.drain()[0]?.at[0]?.reason).toBe(10);
  });

  test("key tracking: the rate doubles with each octave, half of it, or not at all", () => {
    for (const [track, expected] of [
      [1, 84],
      [0.5, 72],
      [0, 60],
    ] as const) {
      const b = bench([tone], [{ ...looped, track }]);
      b.engine.midi(0x90, 84, 100);
      expect(settled(b)).toBeCloseTo(expected, 1);
    }
    const b = bench([tone], [looped]);
    for (const key of [36, 48, 60, 72, 84]) b.engine.midi(0x90, key, 100);
    b.play(64);
    expect(b.engine.trace.drain().map((t) => t.at[0]?.rate)).toEqual([0.25, 0.5, 1, 2, 4]);
  });
});

describe("expression of each note", () => {
  const route = (source: string, amount = 12) =>
    addRoute({ id: source, source, target: "layers/main/source/transpose", amount });

  test("pressure of one key moves that key alone", () => {
    const b = bench([tone], [looped], (i) => route("notePressure").apply(i));
    b.engine.midi(0x90, 60, 100);
    b.engine.midi(0xa0, 60, 127);
    expect(settled(b)).toBeCloseTo(72, 1);
    b.engine.midi(0xa0, 61, 0);
    expect(settled(b)).toBeCloseTo(72, 1);
  });

  test("MPE: each channel bends its own note, the master bends all", () => {
    const b = bench([tone], [looped], set(["play/mpe", "lower"], ["play/noteBend", 12], ["play/bendRange", 2]));
    b.play(32);
    b.engine.midi(0x91, 60, 100);
    b.engine.midi(0xe1, 0, 96);
    expect(settled(b)).toBeCloseTo(66, 1);
    b.engine.midi(0xe2, 0, 127);
    expect(settled(b)).toBeCloseTo(66, 1);
    b.engine.midi(0xe0, 127, 127);
    expect(settled(b)).toBeCloseTo(68, 1);
  });

  test("MPE: slide and pressure belong to the note; without MPE all channels are one", () => {
    const b = bench([tone], [looped], (i) =>
      set(["play/mpe", "lower"])(route("slide", 7).apply(route("notePressure", 5).apply(i))),
    );
    b.play(32);
    b.engine.midi(0x92, 60, 100);
    b.play(32);
    b.engine.midi(0xb2, 74, 127);
    b.engine.midi(0xd2, 127, 0);
    expect(settled(b)).toBeCloseTo(72, 1);
    const plain = bench([tone], [looped]);
    plain.engine.midi(0x95, 60, 100);
    plain.engine.midi(0xe9, 127, 127);
    expect(settled(plain)).toBeCloseTo(62, 1);
  });

  test("MPE: what a channel says of a note before it comes is the note's; one key on two channels is two notes", () => {
    const adjust = (i: Instrument) =>
      set(["play/mpe", "lower"])(
        addRoute({ id: "p", source: "notePressure", target: "layers/main/strip/level", amount: 12 }).apply(
          set(["layers/main/strip/level", -20], ["layers/main/amp/release", 0.02])(i),
        ),
      );
    const level = (pressed: boolean) => {
      const b = bench([tone], [looped], adjust);
      b.play(32);
      if (pressed) b.engine.midi(0xd2, 127, 0);
      b.engine.midi(0x92, 60, 100);
      b.play(9600);
      return rms(b.play(4800).left);
    };
    expect(20 * Math.log10(level(true) / level(false))).toBeCloseTo(12, 0);
    const b = bench([tone], [looped], adjust);
    b.play(32);
    b.engine.midi(0x91, 60, 100);
    b.engine.midi(0x92, 60, 100);
    b.play(4800);
    expect(b.engine.status().voices).toBe(2);
    b.engine.midi(0x81, 60, 0);
    b.play(4800);
    expect(b.engine.status().voices).toBe(1);
    b.engine.midi(0x82, 60, 0);
    b.play(4800);
    expect(b.engine.status().voices).toBe(0);
  });

  test("release velocity arrives with the release", () => {
    const b = bench([tone], [looped], (i) =>
      set(["layers/main/amp/release", 5], ["layers/main/amp/releaseBend", 0])(route("release").apply(i)),
    );
    b.engine.midi(0x90, 60, 100);
    b.play(4800);
    b.engine.midi(0x80, 60, 127);
    expect(settled(b)).toBeCloseTo(72, 1);
  });
});
