import { describe, expect, test } from "@jest/globals";
import { PitchFinder } from "../analysis";
import { hertzOf } from "../audio";
import { type FilterSettings, filterResponse } from "../dsp";
import {
  addRoute,
  addUnit,
  type Instrument,
  newLoop,
  newSample,
  newUnit,
  type Route,
  setCurve,
  setParam,
} from "../instrument";
import { bench, peak, RATE, rms, sine, steepest } from "./test-bench";

const set =
  (...values: readonly (readonly [string, number | string])[]) =>
  (i: Instrument): Instrument =>
    values.reduce((doc, [address, value]) => setParam(doc, address, value).apply(doc), i);
const routed =
  (...routes: readonly (Partial<Route> & Pick<Route, "source" | "target" | "amount">)[]) =>
  (i: Instrument): Instrument =>
    routes.reduce((doc, r, n) => addRoute({ id: `r${n}`, ...r }).apply(doc), i);
const chain =
  (...steps: readonly ((i: Instrument) => Instrument)[]) =>
  (i: Instrument): Instrument =>
    steps.reduce((doc, step) => step(doc), i);

const CUTOFF = "layers/main/stages/filter/cutoff";
const FILTER = "layers/main/stages/filter";
const TRANSPOSE = "layers/main/source/transpose";
const LEVEL = "layers/main/strip/level";
/** A sound of the constant level 0.5 that goes on for ever: what is heard is the gain. */
const constant = { rate: RATE, channels: [new Float32Array(RATE).fill(0.5)] };
const steady = { root: 60, track: 0, loop: newLoop({ start: 2000, end: 40000 }) };
/** The gain of a held note: skip the first frames, in which the interpolation sees the sound's edge. */
const gains = (
  adjust: (i: Instrument) => Instrument,
  frames: number,
  events: (b: ReturnType<typeof bench>) => void = () => {},
) => {
  const b = bench([constant], [{ ...steady, start: 1000 }], adjust);
  b.engine.midi(0x90, 60, 127);
  events(b);
  return b.play(frames).left.map((v) => v * 2);
};

describe("the amp envelope, to the frame", () => {
  test.each([48, 100, 333, 1000])("an attack of %i frames is a straight line that turns on its frame", (attack) => {
    const g = gains(set(["layers/main/amp/attack", attack / RATE], ["layers/main/amp/sustain", 0]), attack + 400);
    const top = g.indexOf(peak(g));
    expect(Math.abs(top - attack)).toBeLessThanOrEqual(1);
    expect(g[top]).toBeCloseTo(1, 2);
    for (let i = 0; i < attack; i += 7) expect(g[i]).toBeCloseTo(i / attack, 3);
  });

  test("delay and hold take their times", () => {
    const g = gains(
      set(
        ["layers/main/amp/delay", 500 / RATE],
        ["layers/main/amp/attack", 0],
        ["layers/main/amp/hold", 700 / RATE],
        ["layers/main/amp/decay", 100 / RATE],
        ["layers/main/amp/sustain", 0.25],
      ),
      2000,
    );
    expect(peak(g.subarray(0, 490))).toBe(0);
    expect(g[540]).toBeCloseTo(1, 3);
    expect(g[1190]).toBeCloseTo(1, 3);
    expect(g[1350]).toBeCloseTo(0.25, 3);
  });

  test.each([1000, 1017, 1031])("letting go at frame %i begins the release there", (at) => {
    const g = gains(set(["layers/main/amp/release", 480 / RATE], ["layers/main/amp/releaseBend", 0]), 2000, (b) =>
      b.engine.midi(0x80, 60, 0, at),
    );
    expect(g[at]).toBeCloseTo(1, 3);
    for (let i = 0; i < 480; i += 16) expect(Math.abs((g[at + i] as number) - (1 - i / 480))).toBeLessThan(0.002);
    expect(peak(g.subarray(at + 481))).toBeLessThan(1e-6);
  });

  test("routes move its times", () => {
    const g = gains(routed({ source: "velocity", target: "layers/main/amp/attack", amount: 0.05 }), 4000);
    expect(g[1200]).toBeCloseTo(0.5, 2);
    expect(g[2500]).toBeCloseTo(1, 2);
  });
});

describe("filters", () => {
  const measured = (settings: FilterSettings, frequency: number): number => {
    const b = bench(
      [sine(RATE, frequency, 0.01)],
      [{ root: 60, loop: newLoop({ start: 0, end: RATE }) }],
      set(
        [`${FILTER}/type`, settings.mode],
        [`${FILTER}/slope`, settings.slope],
        [`${FILTER}/model`, settings.character],
        [CUTOFF, settings.cutoff],
        [`${FILTER}/resonance`, settings.resonance],
        [`${FILTER}/gain`, settings.lift],
        [`${FILTER}/resonanceWidth`, settings.steady ? "constantDecay" : "constantQ"],
      ),
    );
    b.engine.midi(0x90, 60, 127);
    b.play(9600);
    return 20 * Math.log10((rms(b.play(19200).left) * Math.SQRT2) / 0.01);
  };
  const kinds = (["clean", "ladder"] as const).flatMap((character) =>
    (["low", "band", "high", "notch", "peak", "lowShelf", "highShelf"] as const).flatMap((mode) =>
      (["6", "12", "18", "24"] as const)
        .filter(
          (slope) =>
            mode === "low" ||
            mode === "high" ||
            slope === "12" ||
            (slope === "24" && (mode === "band" || mode === "notch")),
        )
        .map((slope) => [character, mode, slope] as const),
    ),
  );
  /** What the reader of samples takes off by itself. */
  const open = new Map<number, number>();
  const unfiltered = (frequency: number): number => {
    const settings = { mode: "off", slope: "12", character: "clean", cutoff: 1000, resonance: 0, lift: 0 } as const;
    if (!open.has(frequency)) open.set(frequency, measured(settings, frequency));
    return open.get(frequency) as number;
  };
  test.each(kinds)("%s %s %s dB: the analytic response", (character, mode, slope) => {
    const settings = { character, mode, slope, cutoff: 2000, resonance: 0.4, lift: slope === "6" ? 12 : -9 };
    for (const [frequency, steady] of [
      [300, false],
      [1400, true],
      [2600, false],
      [19000, true],
    ] as const) {
      const wanted = 20 * Math.log10(filterResponse({ ...settings, steady }, RATE, frequency));
      if (wanted < -75) continue;
      const heard = measured({ ...settings, steady }, frequency) - unfiltered(frequency);
      expect(Math.abs(heard - wanted)).toBeLessThan(0.1);
    }
  });

  test.each(["6", "12", "18", "24"] as const)("low and high pass of %s dB fall by so much for each octave", (slope) => {
    for (const character of ["clean", "ladder"] as const) {
      for (const [mode, near, far] of [
        ["low", 64000, 128000],
        ["high", 31.25, 15.625],
      ] as const) {
        const at = (f: number) =>
          20 * Math.log10(filterResponse({ character, mode, slope, cutoff: 1000, resonance: 0.2, lift: 0 }, 1e7, f));
        expect(at(far) - at(near)).toBeCloseTo(-Number(slope), 0);
      }
    }
  });

  test("the ladder rings by itself at full resonance, and stays bounded whatever it is given", () => {
    for (const [level, drive] of [
      [0.001, 0],
      [1, 36],
    ] as const) {
      const b = bench(
        [sine(RATE, 300, level)],
        [{ root: 60, oneShot: true }],
        set(
          [`${FILTER}/type`, "low"],
          [`${FILTER}/slope`, "24"],
          [`${FILTER}/model`, "ladder"],
          [CUTOFF, 1000],
          [`${FILTER}/resonance`, 1],
          [`${FILTER}/drive`, drive],
          [LEVEL, -20],
        ),
      );
      b.engine.midi(0x90, 60, 127);
      b.play(RATE / 2);
      const { left } = b.play(9600);
      expect(peak(left)).toBeLessThan(0.5);
      expect(peak(left)).toBeGreaterThan(0.003);
      if (level === 0.001) expect(hertzOf(new PitchFinder(RATE).find(left).note ?? 0)).toBeCloseTo(1000, -1.5);
    }
  });

  test("changing mode, slope and character under a held note makes no step", () => {
    const tone = sine(RATE, 200, 0.4);
    const b = bench(
      [tone],
      [{ root: 60, loop: newLoop({ start: 0, end: RATE }) }],
      set([`${FILTER}/type`, "low"], [CUTOFF, 9000], [`${FILTER}/resonance`, 0]),
    );
    b.engine.midi(0x90, 60, 127);
    b.play(4800);
    let doc = b.instrument;
    for (const [id, value] of [
      ["slope", "24"],
      ["slope", "6"],
      ["model", "ladder"],
      ["slope", "18"],
      ["model", "clean"],
      ["type", "off"],
      ["type", "low"],
    ] as const) {
      doc = setParam(doc, `${FILTER}/${id}`, value).apply(doc);
      b.change(doc);
      const { left } = b.play(4800);
      expect(steepest(left)).toBeLessThan(0.4 * 2 * Math.sin((Math.PI * 200) / RATE) * 1.25);
      expect(rms(left.subarray(2400))).toBeGreaterThan(0.2);
    }
  });
});

describe("routes", () => {
  const tone = sine(2 * RATE, hertzOf(60), 0.3);
  const held = { root: 60, loop: newLoop({ start: 9000, end: 81000, fade: 8000 }) };
  const pitch = (
    adjust: (i: Instrument) => Instrument,
    events: (b: ReturnType<typeof bench>) => void = () => {},
  ): number => {
    const b = bench([tone], [held], adjust);
    b.engine.midi(0x90, 60, 127);
    events(b);
    b.play(9600);
    return new PitchFinder(RATE).find(b.play(9600).left).note ?? Number.NaN;
  };
  const wheel = (b: ReturnType<typeof bench>) => b.engine.midi(0xb0, 1, 127);

  test("a curve shapes the source, another source scales it", () => {
    const curve = [
      { x: 0, y: 0, bend: 0 },
      { x: 0.5, y: 1, bend: 0 },
      { x: 1, y: 0.5, bend: 0 },
    ];
    expect(pitch(routed({ source: "wheel", target: TRANSPOSE, amount: 12, curve }), wheel)).toBeCloseTo(66, 1);
    expect(pitch(routed({ source: "velocity", target: TRANSPOSE, amount: 12, curve }))).toBeCloseTo(66, 1);
    const scaled = routed({ source: "velocity", target: TRANSPOSE, amount: 12, scale: "controllers/11" });
    expect(pitch(scaled)).toBeCloseTo(60, 1);
    expect(pitch(scaled, (b) => b.engine.midi(0xb0, 11, 64))).toBeCloseTo(60 + (12 * 64) / 127, 1);
  });

  test("a route's amount is a target: the wheel lets velocity in", () => {
    const adjust = routed(
      { id: "a", source: "velocity", target: TRANSPOSE, amount: 0 },
      { source: "wheel", target: "routes/a/amount", amount: 7 },
    );
    expect(pitch(adjust)).toBeCloseTo(60, 1);
    expect(pitch(adjust, wheel)).toBeCloseTo(67, 1);
  });

  test("routes that lead in a ring end, and sound", () => {
    const ring = routed(
      { id: "a", source: "lfos/lfo1", target: "lfos/lfo1/rate", amount: 2 },
      { id: "b", source: "velocity", target: "routes/c/amount", amount: 1 },
      { id: "c", source: "velocity", target: "routes/b/amount", amount: 1 },
      { id: "d", source: "amp", target: "layers/main/amp/decay", amount: 1 },
    );
    expect(pitch(ring)).toBeCloseTo(60, 1);
  });

  test("smoothing is monotonic, takes its time, and is on for controllers unless switched off", () => {
    const course = (smooth: number | null) => {
      const b = bench(
        [constant],
        [{ ...steady, start: 1000 }],
        routed({ source: "wheel", target: LEVEL, amount: -20, smooth }),
      );
      b.engine.midi(0x90, 60, 127);
      b.play(4800);
      b.engine.midi(0xb0, 1, 127);
      return b.play(RATE / 2).left;
    };
    for (const [smooth, seconds] of [
      [null, 0.005],
      [0.05, 0.05],
    ] as const) {
      const x = course(smooth);
      let rise = 0;
      for (let i = 1; i < x.length; i++) rise = Math.max(rise, (x[i] as number) - (x[i - 1] as number));
      expect(rise).toBeLessThanOrEqual(1e-6);
      const db = (at: number) => 20 * Math.log10((x[Math.round(at * RATE)] as number) * 2);
      expect(db(seconds)).toBeCloseTo(-20 * (1 - Math.exp(-1)), -0.5);
    }
    expect(course(0)[96]).toBeCloseTo(0.05, 3);
  });

  test("an envelope of its own moves what it is routed to", () => {
    const adjust = chain(
      (i) => addUnit("envelopes", newUnit("envelope", "e1", "Pluck")).apply(i),
      set(["envelopes/e1/attack", 0], ["envelopes/e1/decay", 0.05], ["envelopes/e1/sustain", 0.5]),
      routed({ source: "envelopes/e1", target: TRANSPOSE, amount: -24 }),
    );
    expect(pitch(adjust)).toBeCloseTo(48, 1);
  });

  test("a point envelope too, round its loop while held", () => {
    const adjust = chain(
      (i) => addUnit("envelopes", newUnit("path", "p1", "Steps")).apply(i),
      (i) =>
        setCurve("envelopes/p1", [
          { x: 0, y: 0, bend: 0 },
          { x: 0.1, y: 0.5, bend: 0 },
          { x: 5, y: 0.5, bend: 0 },
        ]).apply(i),
      set(["envelopes/p1/loopEnd", 2]),
      routed({ source: "envelopes/p1", target: TRANSPOSE, amount: 12 }),
    );
    expect(pitch(adjust)).toBeCloseTo(66, 1);
  });

  test("repeat, time and key are sources", () => {
    const b = bench(
      [constant],
      [1, 9].map((repeat) => ({ ...steady, start: 1000, repeat })),
      routed(
        { source: "repeat", target: LEVEL, amount: -20 },
        { source: "time", target: LEVEL, amount: -10, smooth: 0 },
      ),
    );
    b.engine.midi(0x90, 60, 127);
    expect(b.play(RATE / 2).left[RATE / 2 - 1]).toBeCloseTo(0.5 * 10 ** (-5 / 20), 3);
    b.engine.midi(0xb0, 123, 0);
    b.play(960);
    b.engine.midi(0x90, 60, 127);
    expect(b.play(480).left[400]).toBeCloseTo(0.5 * 10 ** ((-20 * 8) / 15 / 20), 2);
  });
});

describe("LFOs in the engine", () => {
  /** The LFO's value at the control steps, read from the level that it moves. */
  const course = (adjust: (i: Instrument) => Instrument, seconds: number, tempo = 120, keyAt = 0) => {
    const b = bench(
      [constant],
      [{ ...steady, start: 1000 }],
      chain(routed({ source: "lfos/lfo1", target: LEVEL, amount: 6, smooth: 0 }), set([LEVEL, -12]), adjust),
    );
    b.engine.setTempo(tempo);
    b.play(keyAt);
    b.engine.midi(0x90, 60, 127);
    return b.play(Math.round(seconds * RATE)).left.map((v) => (20 * Math.log10(v * 2) + 12) / 6);
  };
  const crossings = (x: Float32Array): number[] => {
    const out: number[] = [];
    for (let i = 200; i < x.length; i++) {
      const [p, q] = [x[i - 1] as number, x[i] as number];
      if (p < 0 && q >= 0) out.push(i - 1 + p / (p - q));
    }
    return out;
  };

  test("quarter notes at 120 beats a minute: 2 Hz", () => {
    const x = course(set(["lfos/lfo1/sync", "1/4"]), 3.2);
    const at = crossings(x);
    const frequency = (at.length - 1) / (((at.at(-1) as number) - (at[0] as number)) / RATE);
    expect(frequency).toBeCloseTo(2, 4);
    expect(crossings(course(set(["lfos/lfo1/sync", "1/4"]), 3.2, 60)).length).toBe(3);
  });

  test("phase in degrees, delay, and a fade-in that is half-way at half its time", () => {
    const plain = course(set(["lfos/lfo1/rate", 2]), 1);
    const turned = course(set(["lfos/lfo1/rate", 2], ["lfos/lfo1/phase", 180]), 1);
    for (let i = 640; i < 40000; i += 640) expect(turned[i]).toBeCloseTo(-(plain[i] as number), 3);
    const faded = course(
      set(["lfos/lfo1/shape", "square"], ["lfos/lfo1/rate", 0.1], ["lfos/lfo1/delay", 0.2], ["lfos/lfo1/fadeIn", 0.4]),
      1,
    );
    expect(Math.abs(faded[Math.round(0.19 * RATE)] as number)).toBeLessThan(1e-3);
    expect(faded[Math.round(0.4 * RATE)]).toBeCloseTo(0.5, 2);
    expect(faded[Math.round(0.9 * RATE)]).toBeCloseTo(1, 2);
  });

  test("anew with each note, from the first of a phrase, or all the time", () => {
    const value = (scope: string, keyAt: number) =>
      course(set(["lfos/lfo1/rate", 2], ["lfos/lfo1/retrigger", scope]), 0.05, 120, keyAt)[1600] as number;
    const early = Math.sin(2 * Math.PI * 2 * (1600 / RATE));
    expect(value("note", 12000)).toBeCloseTo(early, 2);
    expect(value("firstNote", 12000)).toBeCloseTo(early, 1);
    expect(value("free", 12000)).toBeCloseTo(Math.sin(2 * Math.PI * 2 * (13600 / RATE)), 1);
  });

  test("its rate is a target", () => {
    const at = crossings(
      course(
        chain(set(["lfos/lfo1/rate", 2]), routed({ id: "x", source: "velocity", target: "lfos/lfo1/rate", amount: 1 })),
        2,
      ),
    );
    expect(((at.at(-1) as number) - (at[0] as number)) / RATE / (at.length - 1)).toBeCloseTo(1 / 4, 3);
  });

  test("random shapes differ from note to note, and are the same with the same seed", () => {
    const adjust = set(["lfos/lfo1/shape", "sampleAndHold"], ["lfos/lfo1/rate", 5]);
    expect(course(adjust, 0.5)).toEqual(course(adjust, 0.5));
    const b = bench(
      [constant],
      [{ ...steady, start: 1000 }],
      chain(routed({ source: "lfos/lfo1", target: LEVEL, amount: 6, smooth: 0 }), adjust),
    );
    const values = [0, 1, 2, 3].map(() => {
      b.engine.midi(0x90, 60, 127);
      const value = b.play(960).left[900];
      b.engine.midi(0xb0, 123, 0);
      b.play(960);
      return value;
    });
    expect(new Set(values).size).toBe(4);
  });
});

describe("how samples are held", () => {
  const whole = Float32Array.from({ length: 4000 }, (_, i) => Math.round(12000 * Math.sin(i * 0.05)) / 32768);
  const fine = whole.map((v, i) => v + (i % 7) / 8388608);
  const odd = whole.map((v) => v * 0.7123);
  const memory = (x: Float32Array, holding = "asRecorded") => {
    const b = bench([], []);
    const before = b.engine.memoryUsed;
    const i = set(["play/sampleMemory", holding])(b.instrument);
    b.change({
      ...i,
      samples: [newSample({ sha: "a".repeat(64), name: "", frames: x.length, rate: RATE })],
    });
    b.engine.addSample("a".repeat(64), { rate: RATE, channels: [x] });
    return b.engine.memoryUsed - before;
  };
  const sound = (x: Float32Array, holding: string) => {
    const b = bench(
      [{ rate: RATE, channels: [x, x.map((v) => -v)] }],
      [{ root: 60, loop: newLoop({ start: 500, end: 3000, fade: 200 }) }],
      set(["play/sampleMemory", holding]),
    );
    b.engine.midi(0x90, 65, 127);
    return b.play(8000);
  };

  test("what fits into 16 or 24 bits takes half or three quarters of the memory", () => {
    const [half, three, full] = [whole, fine, odd].map((x) => memory(x)) as [number, number, number];
    expect(half / full).toBeCloseTo(0.5, 1);
    expect(three / full).toBeCloseTo(0.75, 1);
    expect(memory(odd, "int16") / full).toBeCloseTo(0.5, 1);
    expect(memory(whole, "float32")).toBe(full);
  });

  test("and sounds the same, loops, seams, both channels", () => {
    for (const x of [whole, fine]) {
      const exact = sound(x, "asRecorded");
      const float = sound(x, "float32");
      for (const side of ["left", "right"] as const) {
        const gap = exact[side].map((v, i) => v - (float[side][i] as number));
        expect(peak(gap)).toBeLessThan(2e-6);
      }
    }
    const float = sound(odd, "float32").left;
    const rounded = sound(odd, "int16").left.map((v, n) => v - (float[n] as number));
    expect(20 * Math.log10(rms(rounded))).toBeLessThan(-95);
  });

  test("the economy setting transposes too, if less well", () => {
    const b = bench([sine(RATE, 500, 0.3)], [{ root: 60 }], set(["play/quality", "economy"]));
    b.engine.midi(0x90, 67, 127);
    const { left } = b.play(9600);
    expect(new PitchFinder(RATE).find(left).note).toBeCloseTo(12 * Math.log2(500 / 440) + 69 + 7, 2);
  });
});
