import { describe, expect, test } from "@jest/globals";
import { decibelsOf } from "../audio";
import { addUnit, type Edit, type Instrument, newGroup, newUnit, setParam } from "../instrument";
import { bench, benchInstrument, benchOf, peak, RATE, sine } from "./test-bench";

const tone = sine(RATE * 2, 2000, 0.3);
const zones = [
  { keyLow: 60, keyHigh: 60, root: 60 },
  { keyLow: 62, keyHigh: 62, root: 62 },
];
const done = (doc: Instrument, ...edits: Edit[]): Instrument => edits.reduce((d, e) => e.apply(d), doc);
const set = (doc: Instrument, address: string, value: number | string) => setParam(doc, address, value).apply(doc);

/** Twelve decibels an octave from 200 Hz: of a tone of 2 kHz a hundredth is left. */
const filtered = (doc: Instrument): Instrument =>
  set(
    set(
      set(set(doc, "layers/main/stages/filter/type", "low"), "layers/main/stages/filter/slope", "12"),
      "layers/main/stages/filter/cutoff",
      200,
    ),
    "layers/main/stages/filter/resonance",
    0,
  );

describe("how loud it is within the voices", () => {
  test("behind the source, behind each stage, and as loud as the voices are", () => {
    const b = bench([tone], zones, (doc) => filtered({ ...doc, effects: [] }));
    b.engine.watch(true);
    b.engine.midi(0x90, 60, 127);
    b.play(9600);
    b.engine.peaks();
    const { left } = b.play(4800);
    const one = b.engine.peaks() ?? {};
    expect(one["layers/main/source"]).toBeCloseTo(0.3, 2);
    expect(one["layers/main/stages/filter"]).toBeCloseTo(peak(left), 3);
    expect(one["layers/main/stages/filter"]).toBeLessThan(0.006);
    b.engine.midi(0x90, 62, 127);
    b.play(4800);
    b.engine.peaks();
    b.play(4800);
    // Two that know nothing of one another: their powers add up.
    expect(b.engine.peaks()?.["layers/main/source"]).toBeCloseTo(0.3 * Math.SQRT2, 2);
    b.engine.midi(0xb0, 120, 0);
    b.play(RATE);
    b.engine.peaks();
    b.play(4800);
    expect(b.engine.peaks()?.["layers/main/source"]).toBe(0);
  });

  test("a computed source, a stage that is off, one put in under the held note", () => {
    const doc = benchInstrument([tone], zones);
    const computed: Instrument = {
      ...doc,
      effects: [],
      layers: doc.layers.map((layer) => ({ ...layer, source: newUnit("oscillator", "source"), stages: [] })),
    };
    const b = benchOf(computed);
    b.engine.watch(true);
    b.engine.midi(0x90, 60, 127);
    b.play(9600);
    const before = b.engine.peaks() ?? {};
    expect(before["layers/main/source"]).toBeGreaterThan(0.1);
    const comb = newUnit("comb", "comb");
    const put = done(b.instrument, addUnit("layers/main/stages", { ...comb, params: { ...comb.params, on: 0 } }));
    b.change(put);
    b.play(9600);
    b.engine.peaks();
    b.play(4800);
    const off = b.engine.peaks() ?? {};
    expect(off["layers/main/stages/comb"]).toBe(off["layers/main/source"]);
  });

  test("of each group and each microphone, of what sounds together by power", () => {
    const b = bench(
      [tone],
      [
        { keyLow: 60, keyHigh: 60, root: 60, mic: "near" },
        { keyLow: 60, keyHigh: 60, root: 60, mic: "far" },
        { keyLow: 62, keyHigh: 62, root: 62, mic: "near" },
      ],
      (doc) => {
        const mics = ["near", "far"].map((id) => newUnit("mic", id));
        const [main, ...rest] = doc.layers;
        const [group] = main?.groups ?? [];
        if (!main || !group) throw new RangeError("there is a group");
        const soft = { ...newGroup("soft", "Soft"), zones: group.zones.slice(2) };
        const groups = [{ ...group, zones: group.zones.slice(0, 2) }, soft];
        const made = { ...doc, effects: [], mics, layers: [{ ...main, groups }, ...rest] };
        return set(set(made, "layers/main/groups/soft/level", -12), "mics/far/level", -6);
      },
    );
    const levels = (): readonly number[] => {
      const peaks = b.engine.peaks() ?? {};
      const at = ["layers/main/groups/main", "layers/main/groups/soft", "mics/near", "mics/far"];
      return at.map((address) => decibelsOf((peaks[address] as number) / 0.3));
    };
    const far = 10 ** (-6 / 20);
    b.engine.watch(true);
    b.engine.midi(0x90, 60, 127);
    b.play(9600);
    levels();
    b.play(4800);
    const both = decibelsOf(Math.hypot(1, far));
    const first = levels();
    [both, Number.NEGATIVE_INFINITY, 0, -6].forEach((level, i) => {
      if (Number.isFinite(level)) expect(first[i]).toBeCloseTo(level, 0);
      else expect(first[i]).toBe(level);
    });
    b.engine.midi(0x80, 60, 0);
    b.engine.midi(0x90, 62, 127);
    b.play(RATE);
    levels();
    b.play(4800);
    // Nothing of what ended stays in sight.
    const second = levels();
    expect(second[0]).toBe(Number.NEGATIVE_INFINITY);
    expect(second[1]).toBeCloseTo(-12, 0);
    expect(second[2]).toBeCloseTo(-12, 0);
    expect(second[3]).toBe(Number.NEGATIVE_INFINITY);
  });

  test("looking changes nothing of what is heard", () => {
    const run = (watched: boolean) => {
      const b = bench([tone], zones, (doc) => filtered({ ...doc, effects: [] }));
      if (watched) b.engine.watch(true);
      b.engine.midi(0x90, 60, 127);
      b.engine.midi(0x90, 62, 90);
      return b.play(RATE).left;
    };
    const [plain, watched] = [run(false), run(true)];
    expect(peak(plain.map((x, i) => x - (watched[i] as number)))).toBeLessThan(1e-6);
  });
});
