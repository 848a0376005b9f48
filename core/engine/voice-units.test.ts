import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import {
  addUnit,
  type Instrument,
  moveUnit,
  newInstrument,
  newSample,
  newUnit,
  removeUnit,
  setParam,
  setSource,
  setUnitSample,
  together,
} from "../instrument";
import { kindsAt, type UnitKind, unitSpec } from "../units";
import { baseValues } from "./compile";
import { BENCH_SHA, type Bench, bench, benchInstrument, benchOf, peak, RATE, sine, steepest } from "./test-bench";

const SOURCES: readonly UnitKind[] = kindsAt("source").filter((k) => k !== "samples");
const STAGES = kindsAt("stage");
const LIST = "layers/main/stages" as const;
/** A tone whose period isn't a whole number of control steps, and no edit at its zero crossings. */
const TONE = sine(RATE * 4, 233, 0.2);
const ODD = 4855;

/** The bench's instrument with a computed source, or with one stage more. */
function withUnit(kind: UnitKind): Instrument {
  if (SOURCES.includes(kind)) {
    const empty = setSource("main", kind).apply(benchInstrument([], []));
    const made = unitSpec(kind).cell?.sampled
      ? setUnitSample(
          "layers/main/source",
          newSample({ sha: BENCH_SHA(0), name: "tone", frames: 4 * RATE, rate: RATE, channels: 1 }),
        ).apply(empty)
      : empty;
    return together("", [setParam(made, "play/level", -12), setParam(made, "layers/main/amp/release", 0.02)]).apply(
      made,
    );
  }
  const plain = benchInstrument([TONE], [{ root: 60 }]);
  return addUnit(LIST, newUnit(kind, "s")).apply(plain);
}

function played(instrument: Instrument, keys: readonly number[]): Bench {
  const b =
    SOURCES.length > 0 && instrument.samples.length === 0 ? benchOf(instrument) : bench([TONE], [], () => instrument);
  for (const key of keys) b.engine.midi(0x90, key, 100);
  return b;
}

const place = (kind: UnitKind): string => (SOURCES.includes(kind) ? "layers/main/source" : `${LIST}/s`);

/** A document with all of a unit's parameters anywhere in their ranges. */
function shaken(instrument: Instrument, kind: UnitKind, random: () => number): Instrument {
  return together(
    "",
    unitSpec(kind).params.map((p) => {
      const t = random() < 0.3 ? Math.round(random()) : random();
      const value =
        p.type === "choice"
          ? (p.choices[Math.floor(random() * p.choices.length)]?.id ?? "")
          : p.min + t * (p.max - p.min);
      return setParam(instrument, `${place(kind)}/${p.id}`, value);
    }),
  ).apply(instrument);
}

describe.each([...SOURCES, ...STAGES])("%s in a voice", (kind) => {
  test("any split of the frames gives the same bits", () => {
    const whole = played(withUnit(kind), [60, 67]).play(9600);
    const random = seededRandom(4);
    const b = played(withUnit(kind), [60, 67]);
    const left = new Float32Array(9600);
    const right = new Float32Array(9600);
    for (let at = 0; at < 9600; ) {
      const next = Math.min(9600, at + 1 + Math.floor(random() * 70));
      b.engine.render(left, right, at, next);
      at = next;
    }
    expect(left).toEqual(whole.left);
    expect(right).toEqual(whole.right);
  });

  test("voices of a pair don't hear each other", () => {
    const alone = [60, 67].map((key) => {
      // The same notes in the same order, of which one is too soft to be heard: its noise is its own.
      const b = benchOrBoth(kind);
      for (const k of [60, 67]) b.engine.midi(0x90, k, k === key ? 100 : 1);
      return b.play(4800).left;
    });
    const b = benchOrBoth(kind);
    for (const k of [60, 67]) b.engine.midi(0x90, k, 100);
    const both = b.play(4800).left;
    expect(peak(both)).toBeGreaterThan(0.0002);
    const apart = both.map((x, i) => x - (alone[0]?.[i] as number) - (alone[1]?.[i] as number));
    expect(peak(apart)).toBeLessThan(0.01 * peak(both));
  });

  /** Soft notes are all but silent, and no unit so loud that the limiter hears it. */
  function benchOrBoth(k: UnitKind): Bench {
    const made = withUnit(k);
    const soft = setParam(made, "layers/main/strip/velocity", 60);
    return played(together("", [soft, setParam(made, "play/level", -40)]).apply(made), []);
  }

  test("whatever it is set to, at full speed: finite, bounded, and silent in the end", () => {
    const made = withUnit(kind);
    const b = played(made, [36, 60, 67, 100]);
    const random = seededRandom(7);
    let most = 0;
    for (let n = 0; n < 120; n++) {
      b.engine.setBase(baseValues(shaken(made, kind, random)));
      const { left, right } = b.play(200);
      if (![...left, ...right].every(Number.isFinite)) throw new Error("not finite");
      most = Math.max(most, peak(left), peak(right));
      if (n % 10 === 0) b.engine.midi(0x90, 40 + (n % 50), 90);
    }
    expect(most).toBeLessThanOrEqual(1.01);
    expect(b.engine.status().broken).toBe(0);
    b.engine.setBase(baseValues(made));
    b.engine.midi(0xb0, 123, 0);
    b.play(RATE * 2);
    expect(peak(b.play(4800).left)).toBeLessThan(1e-5);
    expect(b.engine.status().voices).toBe(0);
  });
});

describe.each(STAGES)("%s under a held note", (kind) => {
  // So soft that the limiter stays out of it, whatever the unit does.
  const bare = benchInstrument([TONE], [{ root: 60 }]);
  const without = setParam(bare, "play/level", -24).apply(bare);
  const plain = () => played(without, [60]);
  const withIt = addUnit(LIST, newUnit(kind, "s")).apply(without);

  test("inserted and removed it makes no step", () => {
    const b = plain();
    const quiet = plain();
    b.play(ODD);
    quiet.play(ODD);
    const usual = Math.max(steepest(quiet.play(4800).left), 0.001);
    b.change(withIt);
    const { left: inserted } = b.play(RATE);
    b.change(removeUnit(LIST, "s").apply(withIt));
    const { left: removed } = b.play(4800);
    // From one sound to the other within 3 ms: by more than what both move in themselves it can't jump.
    const loudest = peak(inserted) + peak(removed);
    const ramp = loudest / (0.003 * RATE);
    expect(steepest(inserted)).toBeLessThan(3 * usual * Math.max(1, peak(inserted) / 0.012) + 2 * ramp);
    expect(steepest(removed)).toBeLessThan(3 * usual * Math.max(1, peak(inserted) / 0.012) + 2 * ramp);
    expect(b.engine.status().voices).toBe(1);
  });

  test("switched off and on it makes no step; off, the note is as without it", () => {
    const b = played(withIt, [60]);
    b.play(ODD);
    const off = setParam(withIt, `${LIST}/s/on`, 0).apply(withIt);
    b.engine.setBase(baseValues(off));
    const { left } = b.play(9600);
    const truth = plain();
    truth.play(ODD);
    const reference = truth.play(9600).left;
    const later = left.map((x, i) => (i < 4800 ? 0 : x - (reference[i] as number)));
    expect(peak(later)).toBeLessThan(1e-4);
    expect(steepest(left)).toBeLessThan(0.006);
  });

  test("one that is in both plans goes on as it was when another comes before it", () => {
    const b = played(withIt, [60]);
    const same = played(withIt, [60]);
    b.play(RATE + 55);
    same.play(RATE + 55);
    // A second one that is switched off, then moved: nothing of it may be heard.
    const off = { ...newUnit("shaper", "t"), params: { ...newUnit("shaper", "t").params, on: 0 } };
    const more = addUnit(LIST, off).apply(withIt);
    b.change(more);
    const first = b.play(4800).left;
    b.change(moveUnit(LIST, "t", -1).apply(more));
    const second = b.play(4800).left;
    const wanted = same.play(9600).left;
    const apart = [...first, ...second].map((x, i) => x - (wanted[i] as number));
    expect(peak(Float32Array.from(apart))).toBeLessThan(1e-3 * Math.max(0.1, peak(wanted)));
  });
});

describe("a layer without samples", () => {
  test("plays over all keys at once, and its zones divide them as those of samples do", () => {
    const made = setSource("main", "oscillator").apply(newInstrument("bench", "Bench"));
    for (const key of [0, 60, 127]) expect(peak(played(made, [key]).play(4800).left)).toBeGreaterThan(0.001);
    const zone = made.layers[0]?.groups[0]?.zones[0];
    expect(zone?.sample).toBeNull();
    const low: Instrument = {
      ...made,
      layers: made.layers.map((l) => ({
        ...l,
        groups: l.groups.map((g) => ({ ...g, zones: g.zones.map((z) => ({ ...z, keyHigh: 59 })) })),
      })),
    };
    expect(peak(played(low, [60]).play(4800).left)).toBe(0);
    expect(peak(played(low, [59]).play(4800).left)).toBeGreaterThan(0.001);
  });

  test("a source that becomes another under a held note crosses without a step, and back again samples are read", () => {
    const sampled = benchInstrument([TONE], [{ root: 60 }]);
    const b = played(sampled, [60]);
    b.play(ODD);
    const swapped = setSource("main", "oscillator").apply(sampled);
    b.change(setParam(swapped, "layers/main/source/wave", "sine").apply(swapped));
    const { left } = b.play(4800);
    expect(steepest(left)).toBeLessThan(0.03);
    expect(peak(left.subarray(2400))).toBeGreaterThan(0.1);
    b.change(sampled);
    expect(steepest(b.play(4800).left)).toBeLessThan(0.03);
  });

  test("the samples' source without a sample is silent, and says so", () => {
    const made = setSource("main", "oscillator").apply(newInstrument("bench", "Bench"));
    const zones = made.layers[0]?.groups[0]?.zones ?? [];
    const wrong: Instrument = {
      ...made,
      layers: made.layers.map((l) => ({ ...l, source: newUnit("samples", "source") })),
    };
    expect(zones).toHaveLength(1);
    const b = benchOf(wrong);
    b.engine.midi(0x90, 60, 100);
    expect(peak(b.play(4800).left)).toBe(0);
  });
});
