import { describe, expect, test } from "@jest/globals";
import { addUnit, type Edit, type Instrument, newUnit, setParam, type Unit } from "../instrument";
import type { ParamId, UnitKind } from "../units";
import { type ProbeSetting, SWEEP } from "./probe";
import { bench, peak, RATE, rms, sine, steepest } from "./test-bench";

const done = (doc: Instrument, ...edits: Edit[]): Instrument => edits.reduce((d, e) => e.apply(d), doc);
const unit = (kind: UnitKind, id: string, params: { readonly [I in ParamId]?: number | string }): Unit => {
  const made = newUnit(kind, id);
  return { ...made, params: { ...made.params, ...params } as Unit["params"] };
};
const tone = (at: string, more: Partial<ProbeSetting> = {}): ProbeSetting => ({
  kind: "tone",
  at,
  hertz: 1000,
  level: -12,
  ...more,
});
const half = (id: string) => unit("stereo", id, { level: -6.0206 });
const start = (adjust: (doc: Instrument) => Instrument = (d) => d) =>
  bench([sine(RATE, 220, 0.3)], [{ keyLow: 60, keyHigh: 60, root: 60 }], (doc) => adjust({ ...doc, effects: [] }));
/** Root of the mean power of the tone as it is made. */
const AS_MADE = 10 ** (-12 / 20) / Math.SQRT2;

describe("a test tone", () => {
  test.each<[string, string, (doc: Instrument) => Instrument, number]>([
    ["the whole's chain", "effects", (d) => done(d, addUnit("effects", half("a"))), 0.5],
    [
      "a layer's inserts and the whole's chain",
      "layers/main",
      (d) => done(d, addUnit("layers/main/inserts", half("a")), addUnit("effects", half("b"))),
      0.25,
    ],
    ["a layer without units", "layers/main", (d) => d, 1],
    ["a send", "sends/send2", (d) => done(d, addUnit("sends/send2", half("a"))), 0.5],
    ["a layer that isn't there", "layers/gone", (d) => d, 0],
  ])("goes through %s, without any note", (_, at, adjust, factor) => {
    const b = start(adjust);
    b.engine.setProbe(tone(at));
    b.play(4800);
    expect(rms(b.play(RATE / 2).left) / AS_MADE).toBeCloseTo(factor, 3);
    b.engine.setProbe(null);
    b.play(4800);
    expect(peak(b.play(RATE / 4).left)).toBeLessThan(1e-6);
  });

  test("comes, moves and goes without a step, and any split gives the same bits", () => {
    const run = (block: number) => {
      const b = start();
      b.engine.setProbe(tone("effects"));
      const all = new Float32Array(RATE / 2);
      all.set(b.play(9600, block).left);
      b.engine.setProbe(tone("effects", { hertz: 1500 }));
      all.set(b.play(7200, block).left, 9600);
      b.engine.setProbe(null);
      all.set(b.play(7200, block).left, 16800);
      return all;
    };
    expect(run(48)).toEqual(run(128));
    const most = 2 * Math.sin((Math.PI * 1500) / RATE) * 10 ** (-12 / 20);
    expect(steepest(run(128))).toBeLessThan(most * 1.05);
  });
});

describe("a sweep", () => {
  /** What a sweep through the whole's chain has met, by the frequencies in the middle of its bands. */
  function response(units: readonly Unit[]): { hertz: number; level: number }[] {
    const b = start((d) => done(d, ...units.map((u) => addUnit("effects", u))));
    b.engine.setProbe({ kind: "sweep", at: "effects", hertz: 0, level: -18 });
    b.play(RATE * (SWEEP.seconds + 0.5));
    expect(b.engine.sweeping).toBe(false);
    return Array.from(b.engine.response, (level, band) => ({
      hertz: SWEEP.from * (SWEEP.to / SWEEP.from) ** ((band + 0.5) / SWEEP.bands),
      level,
    }));
  }

  test("without units is as loud everywhere", () => {
    for (const { hertz, level } of response([]).slice(2, -1)) {
      expect(hertz).toBeGreaterThan(20);
      expect(Math.abs(level)).toBeLessThan(0.3);
    }
  });

  test("shows an equaliser's bell where it is and as high as it is", () => {
    const met = response([unit("equaliser", "eq", { kind1: "bell", frequency1: 1000, gain1: 12, q1: 2 })]);
    const top = met.reduce((a, b) => (b.level > a.level ? b : a));
    expect(Math.abs(Math.log2(top.hertz / 1000))).toBeLessThan(0.15);
    expect(Math.abs(top.level - 12)).toBeLessThan(0.4);
    expect(Math.abs(met.find(({ hertz }) => hertz > 60)?.level ?? 99)).toBeLessThan(0.6);
  });
});

describe("what is copied of a row or a unit", () => {
  test.each([
    ["layers/main", 0.5],
    ["layers/main/inserts/a", 0.5],
    ["effects/b", 0.25],
    ["effects/off", 0.25],
    ["layers/gone", 0],
  ])("%s", (address, factor) => {
    const b = start((d) =>
      done(
        d,
        addUnit("layers/main/inserts", half("a")),
        addUnit("effects", half("b")),
        addUnit("effects", unit("stereo", "off", { on: 0, level: 12 })),
      ),
    );
    const plain = start();
    plain.engine.midi(0x90, 60, 127);
    plain.play(9600);
    b.engine.midi(0x90, 60, 127);
    b.engine.setTap(address);
    b.play(9600);
    let power = 0;
    let whole = 0;
    for (let n = 0; n < 100; n++) {
      power += rms(plain.play(128).left) ** 2;
      b.play(128);
      whole += rms(b.engine.tapped.left) ** 2;
    }
    expect(Math.sqrt(whole / power)).toBeCloseTo(factor, 3);
    // It is silent as soon as nothing sounds.
    b.engine.midi(0xb0, 120, 0);
    b.play(RATE);
    expect(peak(b.engine.tapped.left)).toBe(0);
  });

  test("copying is not heard", () => {
    const run = (tap: string | null) => {
      const b = start((d) =>
        setParam(done(d, addUnit("layers/main/inserts", half("a"))), "layers/main/strip/level", -3).apply(
          done(d, addUnit("layers/main/inserts", half("a"))),
        ),
      );
      b.engine.setTap(tap);
      b.engine.midi(0x90, 60, 127);
      return b.play(9600).left;
    };
    const plain = run(null);
    for (const tap of ["layers/main", "layers/main/inserts/a", "effects/none"])
      expect(peak(run(tap).map((x, i) => x - (plain[i] as number)))).toBeLessThan(1e-6);
  });
});
