import { describe, expect, test } from "@jest/globals";
import {
  addUnit,
  type Edit,
  type Instrument,
  linkProblem,
  newLayer,
  newUnit,
  newZone,
  setParam,
  type Unit,
} from "../instrument";
import type { ParamValues } from "../units";
import { BENCH_SHA, type Bench, bench, RATE, rms, sine, steepest } from "./test-bench";

const LENGTH = RATE * 3;
/** The layer that is heard, and another that it gives way to; far enough apart to be told from one another. */
const PAD = sine(LENGTH, 220, 0.25);
const KICK = sine(LENGTH, 3000, 0.5);

const done = (doc: Instrument, ...edits: Edit[]): Instrument => edits.reduce((d, e) => e.apply(d), doc);
const set = (doc: Instrument, address: string, value: number | string) => setParam(doc, address, value).apply(doc);
const compressor = (id: string, params: ParamValues, from?: string): Unit => {
  const made = newUnit("compressor", id);
  const settings = { ...made.params, threshold: -18, ratio: 4, knee: 0, attack: 0.001, release: 0.02, ...params };
  return { ...made, params: settings, ...(from === undefined ? {} : { from }) };
};

/** The pad on key 60, the kick on key 62, in layers of their own, the kick not heard itself. */
function two(adjust: (doc: Instrument) => Instrument): Bench {
  return bench([PAD, KICK], [{ keyLow: 60, keyHigh: 60, root: 60, sound: 0 }], (doc) => {
    const zone = newZone({ id: "kick", sample: BENCH_SHA(1), end: LENGTH, keyLow: 62, keyHigh: 62, root: 62 });
    const layer = newLayer("kick", "Kick");
    const [group] = layer.groups;
    if (!group) throw new Error("a layer has a group");
    const whole = { ...doc, effects: [], layers: [...doc.layers, { ...layer, groups: [{ ...group, zones: [zone] }] }] };
    const plain = [
      ["stages/filter/type", "off"],
      ["strip/velocity", 0],
      ["strip/level", 0],
      ["strip/mute", 1],
      ["amp/attack", 0],
      ["amp/release", 0.005],
    ] as const;
    return adjust(plain.reduce((d, [at, value]) => set(d, `layers/kick/${at}`, value), whole as Instrument));
  });
}

const INSERTS = "layers/main/inserts";
const plain = rms(
  (() => {
    const b = two((d) => d);
    b.engine.midi(0x90, 60, 127);
    return b.play(RATE).left.subarray(RATE / 2);
  })(),
);
const decibels = (x: Float32Array): number => 20 * Math.log10(rms(x) / plain);

describe("a compressor that listens to another layer", () => {
  test.each([
    ["as an insert", (d: Instrument) => done(d, addUnit(INSERTS, compressor("c", {}, "kick")))],
    ["in the whole's chain", (d: Instrument) => done(d, addUnit("effects", compressor("c", {}, "kick")))],
  ])("%s takes the pad down by what the kick is too loud, and lets it go again", (_, adjust) => {
    const b = two(adjust);
    b.engine.midi(0x90, 60, 127);
    b.play(RATE / 4);
    // The pad alone is above the threshold, but nobody listens to it.
    expect(decibels(b.play(RATE / 4).left)).toBeCloseTo(0, 1);
    b.engine.midi(0x90, 62, 127);
    b.play(RATE / 4);
    // The kick's peaks stand 12 dB over the threshold; of a sine the level is followed around its peaks, so a little less is taken.
    const down = decibels(b.play(RATE / 4).left);
    expect(down).toBeLessThan(-7.5);
    expect(down).toBeGreaterThan(-9.1);
    b.engine.midi(0x80, 62, 0);
    b.play(RATE / 2);
    expect(decibels(b.play(RATE / 4).left)).toBeCloseTo(0, 1);
  });

  test("what listens is itself listened to as it comes out; a ring is refused and told, and the sound goes on", () => {
    const b = two((d) =>
      done(
        d,
        addUnit(INSERTS, compressor("c", {}, "kick")),
        addUnit("layers/kick/inserts", compressor("back", {}, "main")),
      ),
    );
    expect(linkProblem(b.instrument, `${INSERTS}/c`)).toBeNull();
    expect(linkProblem(b.instrument, "layers/kick/inserts/back")).toMatch(/feedback loop/);
    expect(linkProblem(done(b.instrument, addUnit(INSERTS, compressor("own", {}, "main"))), `${INSERTS}/own`)).toMatch(
      /itself/,
    );
    b.engine.midi(0x90, 60, 127);
    b.engine.midi(0x90, 62, 127);
    b.play(RATE / 2);
    const down = decibels(b.play(RATE / 4).left);
    expect(down).toBeLessThan(-2);
    expect(down).toBeGreaterThan(-9.1);
  });

  test("the layer that is listened to goes: the pad comes back without a step", () => {
    const b = two((d) => done(d, addUnit(INSERTS, compressor("c", {}, "kick"))));
    b.engine.midi(0x90, 60, 127);
    b.engine.midi(0x90, 62, 127);
    const before = b.play(RATE / 2 + 55).left;
    b.change({ ...b.instrument, layers: b.instrument.layers.filter((l) => l.id !== "kick") });
    const after = b.play(RATE / 2).left;
    const all = new Float32Array(before.length + after.length);
    all.set(before);
    all.set(after, before.length);
    expect(steepest(all, RATE / 4)).toBeLessThan(2 * Math.sin((Math.PI * 220) / RATE) * 0.25 * 1.2);
    // Its own sound is what is listened to now: 6 dB over the threshold at its peaks.
    expect(decibels(after.subarray(RATE / 4))).toBeLessThan(-2);
  });

  test("any split of the blocks gives the same bits", () => {
    const run = (block: number) => {
      const b = two((d) => done(d, addUnit(INSERTS, compressor("c", { lookAhead: 0.005 }, "kick"))));
      b.engine.midi(0x90, 60, 127, 100);
      b.engine.midi(0x90, 62, 127, 7000);
      b.engine.midi(0x80, 62, 0, 15000);
      return b.play(RATE / 2, block).left;
    };
    expect(run(37)).toEqual(run(128));
  });
});

describe("look-ahead", () => {
  /** How far a beginning of 0.5 goes beyond where it ends up. */
  const overshoot = (lookAhead: number): number => {
    const b = two((d) => {
      const kick = set(d, "layers/kick/strip/mute", 0);
      return done(kick, addUnit("effects", compressor("c", { ratio: 40, attack: 0.003, release: 0.3, lookAhead })));
    });
    b.engine.midi(0x90, 62, 127);
    const { left } = b.play(RATE / 2);
    const settled = Math.max(...left.subarray(RATE / 4));
    return Math.max(...left.subarray(0, RATE / 8)) / settled;
  };

  test("lets the gain be there before the sound", () => {
    expect(overshoot(0)).toBeGreaterThan(2.5);
    expect(overshoot(0.02)).toBeLessThan(1.15);
  });

  test("delays by as much, and moved under a held note it makes no step", () => {
    const at = (lookAhead: number) => (d: Instrument) =>
      done(d, addUnit(INSERTS, compressor("c", { ratio: 1, lookAhead })));
    const run = (lookAhead: number) => {
      const b = two(at(lookAhead));
      b.engine.midi(0x90, 60, 127);
      return b.play(RATE / 2).left;
    };
    const [now, late] = [run(0), run(0.01)];
    expect(late.subarray(480, 4800)).toEqual(now.subarray(0, 4320));
    const b = two(at(0));
    b.engine.midi(0x90, 60, 127);
    const all = new Float32Array(RATE);
    all.set(b.play(RATE / 4 + 55).left);
    b.change(set(b.instrument, `${INSERTS}/c/lookAhead`, 0.0123));
    all.set(b.play(RATE / 2).left, RATE / 4 + 55);
    expect(steepest(all.subarray(0, (RATE * 3) / 4), 200)).toBeLessThan(
      2 * Math.sin((Math.PI * 220) / RATE) * 0.25 * 1.6,
    );
  });
});
