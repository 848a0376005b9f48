import { describe, expect, test } from "@jest/globals";
import { type Audio, gainOf, hertzOf, seededRandom } from "../audio";
import { curveAt } from "../dsp";
import { addUnit, type Instrument, newUnit, setParam, setTable, together, withUnits } from "../instrument";
import type { ParamId, TableRow, UnitKind } from "../units";
import { type Bench, bench, peak, RATE, rms, sine } from "./test-bench";

type Settings = { readonly [I in ParamId]?: number | string };
const STAGES = "layers/main/stages" as const;
const decibels = (gain: number): number => 20 * Math.log10(Math.max(1e-12, gain));

/** An impulse, then silence. */
const click = (frames = RATE, level = 0.5): Audio => {
  const x = new Float32Array(frames);
  x[2000] = level;
  return { rate: RATE, channels: [x] };
};

/** The document with one stage alone in its layer. */
function withStage(
  i: Instrument,
  kind: UnitKind,
  params: Settings,
  rows: readonly TableRow[] | null = null,
): Instrument {
  const empty = withUnits(i, STAGES, () => []);
  const made = addUnit(STAGES, newUnit(kind, "s")).apply(empty);
  return together("", [
    ...Object.entries(params).map(([id, value]) => setParam(made, `${STAGES}/s/${id}`, value)),
    ...(rows ? [setTable(`${STAGES}/s`, rows, "Set modes")] : []),
  ]).apply(made);
}

/** A sound, untouched by the key, through one stage. */
function through(
  sound: Audio,
  kind: UnitKind,
  params: Settings,
  { key = 69, rows = null }: { key?: number; rows?: readonly TableRow[] | null } = {},
): Bench {
  const b = bench([sound], [{ root: key, track: 0, tune: 0 }], (i) => withStage(i, kind, params, rows));
  b.engine.midi(0x90, key, 100);
  return b;
}

/** Gain of a sound at a frequency: the power spectrum of what came out of a click of 0.5. */
function gainAt(x: Float32Array, hertz: number): number {
  let re = 0;
  let im = 0;
  for (let i = 0; i < x.length; i++) {
    const phase = (2 * Math.PI * hertz * i) / RATE;
    re += (x[i] as number) * Math.cos(phase);
    im += (x[i] as number) * Math.sin(phase);
  }
  return decibels(Math.hypot(re, im) / 0.5);
}

describe("the comb", () => {
  const settings = { mix: 1, decay: 1, damping: 20000 };
  test("rings at the key and its harmonics, and falls by 60 dB in its time", () => {
    const { left } = through(click(), "comb", settings, { key: 57 }).play(RATE);
    const [near, far] = [gainAt(left, 220), gainAt(left, 330)];
    const round = 10 ** (-3 / 220);
    expect(near - far).toBeCloseTo(decibels((1 + round) / (1 - round)), 0);
    expect(gainAt(left, 660) - far).toBeGreaterThan(30);
    const fall = decibels(rms(left.subarray(4800, 9600)) / rms(left.subarray(28800, 33600)));
    expect(fall).toBeGreaterThan(28);
    expect(fall).toBeLessThan(36);
  });

  test("in tune to a cent, whatever its damping", () => {
    for (const damping of [1500, 5000, 20000]) {
      const { left } = through(click(RATE * 2), "comb", { ...settings, decay: 6, damping }, { key: 64 }).play(RATE * 2);
      const at = (cents: number) => gainAt(left, hertzOf(64) * 2 ** (cents / 1200));
      const peakAt = Array.from({ length: 41 }, (_, i) => i / 4 - 5).reduce((a, b) => (at(b) > at(a) ? b : a));
      expect(Math.abs(peakAt)).toBeLessThanOrEqual(1);
    }
  });

  test("with one end open: an octave lower, odd partials only", () => {
    const { left } = through(click(), "comb", { ...settings, ends: "open" }, { key: 69 }).play(RATE);
    expect(gainAt(left, 220) - gainAt(left, 440)).toBeGreaterThan(30);
    expect(gainAt(left, 660) - gainAt(left, 440)).toBeGreaterThan(25);
  });

  test("goes on ringing when the sample is over, then its voice ends", () => {
    const b = through(click(4000), "comb", { ...settings, decay: 2 }, { key: 57 });
    expect(peak(b.play(RATE).left.subarray(24000))).toBeGreaterThan(0.01);
    b.play(RATE * 4);
    expect(b.engine.status().voices).toBe(0);
  });
});

describe("the resonator", () => {
  const rows = [
    { ratio: 1, level: 0, decay: 1 },
    { ratio: 2.7, level: -6, decay: 0.5 },
  ];
  test("rings at its ratios with their decays", () => {
    const { left } = through(click(), "resonator", { level: 12 }, { key: 57, rows }).play(RATE);
    expect(gainAt(left, 220)).toBeGreaterThan(gainAt(left, 300) + 30);
    expect(gainAt(left, 594)).toBeGreaterThan(gainAt(left, 700) + 25);
    const alone = through(click(), "resonator", { level: 12 }, { key: 57, rows: rows.slice(0, 1) }).play(RATE).left;
    expect(decibels(rms(alone.subarray(4800, 7200)) / rms(alone.subarray(28800, 31200)))).toBeCloseTo(30, 0);
  });

  test("modes are as loud as each other under noise, however long they ring", () => {
    const random = seededRandom(3);
    const noise = Float32Array.from({ length: RATE * 11 }, () => (random() - 0.5) * 0.1);
    const loud = [0.02, 0.1, 0.4].map((decay) =>
      rms(
        through(
          { rate: RATE, channels: [noise] },
          "resonator",
          { level: 0 },
          { key: 69, rows: [{ ratio: 1, level: 0, decay }] },
        )
          .play(RATE * 10)
          .left.subarray(RATE),
      ),
    );
    for (const level of loud) expect(Math.abs(decibels(level / (loud[0] as number)))).toBeLessThan(1.5);
  });

  test("damping shortens the high ones, decay lengthens all", () => {
    const play = (params: Settings) =>
      through(
        click(),
        "resonator",
        { level: 12, ...params },
        { key: 57, rows: [{ ratio: 4, level: 0, decay: 1 }] },
      ).play(RATE).left;
    const fall = (x: Float32Array) => decibels(rms(x.subarray(4800, 7200)) / rms(x.subarray(14400, 16800)));
    expect(fall(play({ damping: 1 }))).toBeCloseTo(48, 0);
    expect(fall(play({ decay: 2 }))).toBeCloseTo(6, 0);
  });

  test("a material's modes ring as long at a frequency as it does, whatever the table says", () => {
    // Decibels a second of a mode at 880 Hz.
    const fall = (params: Settings) => {
      const x = through(
        click(),
        "resonator",
        { level: 12, ...params },
        { key: 57, rows: [{ ratio: 4, level: 0, decay: 9 }] },
      ).play(RATE).left;
      return decibels(rms(x.subarray(4800, 7200)) / rms(x.subarray(14400, 16800))) / 0.2;
    };
    // 60 dB take 3 ln 10 / (π f η) seconds by friction, and what the air takes besides.
    const wanted = (longest: number, loss: number) => 60 / longest + (60 * Math.PI * 880 * loss) / (3 * Math.LN10);
    expect(fall({ material: "table" })).toBeCloseTo(60 / 9, 0);
    expect(fall({ material: "steel" }) / wanted(12, 0.0005)).toBeCloseTo(1, 1);
    expect(fall({ material: "stone" }) / wanted(1.2, 0.006)).toBeCloseTo(1, 2);
    expect(fall({ material: "stone", decay: 2 }) / wanted(1.2, 0.006)).toBeCloseTo(0.5, 2);
  });

  test("what would ring above half the rate is left out", () => {
    const { left } = through(
      click(),
      "resonator",
      { level: 12 },
      { key: 110, rows: [{ ratio: 20, level: 0, decay: 1 }] },
    ).play(RATE);
    expect(peak(left)).toBe(0);
  });
});

describe("the shaper", () => {
  const CURVES = ["soft", "hard", "fold", "triangle", "saw", "pulse"] as const;
  test.each(CURVES)("%s: what is held still comes out as its curve says", (curve) => {
    const f = (u: number) => curveAt(curve, u);
    for (const [level, bias] of [
      [0.3, 0],
      [-0.2, 0.4],
      [0.9, -0.7],
    ] as const) {
      const sound: Audio = { rate: RATE, channels: [new Float32Array(9600).fill(level)] };
      const { left } = through(sound, "shaper", { curve, drive: 12, bias }).play(4800);
      const gain = gainOf(12);
      const wanted = (f(level * gain + bias) - f(bias)) * gainOf(-7.2);
      expect(left[4000] as number).toBeCloseTo(wanted, 3);
    }
  });

  test("what comes out is the mean of the curve between one frame and the next, across any number of its cycles", () => {
    // Driven by 30 dB its frames lie up to nine units apart.
    const sound = Float32Array.from({ length: 2400 }, (_, i) => 0.5 * Math.sin(i * 0.7) * Math.sin(i / 40));
    for (const curve of CURVES) {
      for (const drive of [6, 30]) {
        const { left } = through({ rate: RATE, channels: [sound] }, "shaper", { curve, drive }).play(2400);
        const gain = gainOf(drive) * gainOf(-0.6 * drive);
        const wanted = sound.map((x, i) => {
          const a = x * gainOf(drive);
          const b = (sound[i - 1] ?? 0) * gainOf(drive);
          let sum = 0;
          for (let n = 0; n < 400; n++) sum += curveAt(curve, b + ((n + 0.5) / 400) * (a - b));
          return ((sum / 400) * gain) / gainOf(drive);
        });
        const worst = Math.max(
          ...Array.from({ length: 1000 }, (_, i) =>
            Math.abs((left[i + 1300] as number) - (wanted[i + 1300] as number)),
          ),
        );
        expect(worst).toBeLessThan(0.001 * gain);
      }
    }
  });

  test("a low tone comes out with odd partials, by which it is symmetrical, and aliases stay far below", () => {
    const b = through(sine(RATE * 2, 1000, 0.4), "shaper", { curve: "soft", drive: 24 });
    b.play(4800);
    const { left } = b.play(RATE);
    expect(gainAt(left, 3000) - gainAt(left, 2000)).toBeGreaterThan(60);
    // 25 kHz would fold to 23, 27 to 21 and so on: between the partials there is nothing.
    expect(gainAt(left, 1000) - gainAt(left, 22500)).toBeGreaterThan(80);
  });

  test("off it leaves the bits untouched", () => {
    const tone = sine(RATE, 330, 0.3);
    const without = bench([tone], [{ root: 69, track: 0 }], (i) => withUnits(i, STAGES, () => []));
    without.engine.midi(0x90, 69, 100);
    expect(through(tone, "shaper", { on: 0 }).play(4800).left).toEqual(without.play(4800).left);
  });
});

describe("the gain", () => {
  test("makes louder or softer by what it says, turns over, and is silent when it is off", () => {
    const tone = sine(RATE, 330, 0.1);
    const plain = through(tone, "level", {}).play(4800).left;
    const loud = through(tone, "level", { level: 12 }).play(4800).left;
    expect(peak(loud.map((x, i) => x / gainOf(12) - (plain[i] as number)))).toBeLessThan(1e-5);
    const turned = through(tone, "level", { polarity: "inverted" }).play(4800).left;
    expect(peak(turned.map((x, i) => x + (plain[i] as number)))).toBe(0);
    expect(peak(plain)).toBeGreaterThan(0.09);
    expect(peak(through(tone, "level", { level: -60 }).play(4800).left)).toBe(0);
  });
});

describe("the vowel", () => {
  test("its formants stand where they were measured, and move with its size", () => {
    const { left } = through(click(), "vowel", { mix: 1, vowel: 0.5 }).play(RATE);
    expect(gainAt(left, 730)).toBeGreaterThan(gainAt(left, 450) + 8);
    expect(gainAt(left, 1090)).toBeGreaterThan(gainAt(left, 1500) + 8);
    const up = through(click(), "vowel", { mix: 1, vowel: 0, size: 12 }).play(RATE).left;
    expect(gainAt(up, 540)).toBeGreaterThan(gainAt(up, 270) + 6);
  });
});

describe("the all-passes", () => {
  test.each([
    ["2", 1],
    ["4", 2],
    ["8", 4],
    ["12", 6],
  ])("%s in a row make %d notches", (stages, notches) => {
    const { left } = through(click(), "allpass", { stages, feedback: 0, centre: 900, mix: 0.5 }).play(RATE);
    let count = 0;
    const levels = Array.from({ length: 600 }, (_, i) => gainAt(left.subarray(1990, 8000), 20 * 2 ** (i / 60)));
    for (let i = 2; i < levels.length - 2; i++) {
      const [a, b, c] = [levels[i - 1], levels[i], levels[i + 1]] as [number, number, number];
      if (b < a && b < c && b < -12) count++;
    }
    expect(count).toBe(notches);
  });
});
