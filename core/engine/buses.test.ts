import { describe, expect, test } from "@jest/globals";
import {
  addRoute,
  addUnit,
  type Edit,
  type Instrument,
  type Layer,
  moveUnit,
  newLayer,
  newUnit,
  newZone,
  removeUnit,
  setParam,
  type Unit,
  type Zone,
} from "../instrument";
import { kindsAt, type ParamId, type UnitKind } from "../units";
import { routeProblem } from "./route-problem";
import { BENCH_SHA, type Bench, bench, peak, RATE, rms, sine, steepest } from "./test-bench";

const LENGTH = RATE * 2;
const tone = sine(LENGTH, 220, 0.3);
const zones = [{ keyLow: 60, keyHigh: 60, root: 60 }];

const unit = (kind: UnitKind, id: string, params: { readonly [I in ParamId]?: number | string } = {}): Unit => {
  const made = newUnit(kind, id);
  return { ...made, params: { ...made.params, ...params } as Unit["params"] };
};
const done = (doc: Instrument, ...edits: Edit[]): Instrument => edits.reduce((d, e) => e.apply(d), doc);
const set = (doc: Instrument, address: string, value: number | string) => setParam(doc, address, value).apply(doc);
/** Without the reverb, so that only what is added is heard. */
const bare = (doc: Instrument): Instrument => ({ ...doc, effects: [] });
const half = (id: string) => unit("stereo", id, { level: -6.0206 });

function held(adjust: (doc: Instrument) => Instrument) {
  const b = bench([tone], zones, (doc) => adjust(bare(doc)));
  b.engine.midi(0x90, 60, 127);
  return b;
}

const EDITED_AT = 9600 + 55;

/** A tone that is held for a while, with an edit in the middle: how it was before and after, and the steepest slope around. */
function edited(adjust: (doc: Instrument) => Instrument, edit: (doc: Instrument) => Instrument) {
  const b = held(adjust);
  // Neither at the beginning of a step nor where the tone goes through zero: there nothing would be seen.
  const before = b.play(EDITED_AT).left;
  b.change(edit(b.instrument));
  const after = b.play(9600).left;
  const all = new Float32Array(EDITED_AT + 9600);
  all.set(before);
  all.set(after, EDITED_AT);
  return { before: rms(before.subarray(4800)), after: rms(after.subarray(4800)), slope: steepest(all, 4801) };
}

const plain = rms(
  held((d) => d)
    .play(9600)
    .left.subarray(4800),
);
/** A tone of 220 Hz can be no steeper, but for what 3 ms of fading add. */
const SLOPE = plain * Math.SQRT2 * 2 * Math.sin((Math.PI * 220) / RATE) * 1.25;

describe("the whole's chain, inserts and sends", () => {
  test.each<[string, (doc: Instrument) => Instrument, number]>([
    ["the whole's chain", (d) => done(d, addUnit("effects", half("a"))), 0.5],
    ["two in a row", (d) => done(d, addUnit("effects", half("a")), addUnit("effects", half("b"))), 0.25],
    ["a layer's inserts", (d) => done(d, addUnit("layers/main/inserts", half("a"))), 0.5],
    ["one that is switched off", (d) => set(done(d, addUnit("effects", half("a"))), "effects/a/on", 0), 1],
    ["a send that nobody uses", (d) => done(d, addUnit("sends/send2", half("a"))), 1],
    [
      "a send at 0 dB, beside the layer itself",
      (d) => set(done(d, addUnit("sends/send2", half("a"))), "layers/main/sends/send2", 0),
      1.5,
    ],
    [
      "a send whose only unit is off",
      (d) => {
        const sent = set(done(d, addUnit("sends/send2", half("a"))), "layers/main/sends/send2", 0);
        return set(sent, "sends/send2/a/on", 0);
      },
      1,
    ],
    ["a send without units", (d) => set(d, "layers/main/sends/send1", 6), 1],
  ])("%s", (_, adjust, factor) => {
    expect(rms(held(adjust).play(9600).left.subarray(4800)) / plain).toBeCloseTo(factor, 3);
  });

  test("in a send a room gives only itself, elsewhere beside the sound as it was", () => {
    const room = unit("delay", "d", { mix: 1, time: 0.5, feedback: 0 });
    const start = (doc: Instrument) =>
      rms(
        held(() => doc)
          .play(9600)
          .left.subarray(4800),
      ) / plain;
    const b = held((d) => d);
    expect(start(done(b.instrument, addUnit("effects", room)))).toBeCloseTo(1, 3);
    const sent = set(done(b.instrument, addUnit("sends/send1", room)), "layers/main/sends/send1", 0);
    expect(start(sent)).toBeCloseTo(1, 3);
    const late = held(() => sent)
      .play(RATE)
      .left.subarray(RATE / 2 + 4800);
    const alone = held((d) => d)
      .play(RATE)
      .left.subarray(RATE / 2 + 4800);
    const echo = late.map((x, i) => x - (alone[i] as number));
    expect(rms(echo) / plain).toBeCloseTo(1, 2);
  });

  test("a layer's inserts are heard on that layer alone", () => {
    const low = sine(LENGTH, 110, 0.3);
    const two = (doc: Instrument): Instrument => {
      const zone = newZone({ id: "other", sample: BENCH_SHA(1), end: LENGTH, keyLow: 60, keyHigh: 60, root: 60 });
      const layer = newLayer("second", "Second");
      const [group] = layer.groups;
      if (!group) throw new Error("a layer has a group");
      const made = { ...layer, groups: [{ ...group, zones: [zone] }] };
      const whole = { ...bare(doc), layers: [...doc.layers, made] };
      return set(set(whole, "layers/second/stages/filter/type", "off"), "layers/second/strip/velocity", 0);
    };
    const play = (adjust: (doc: Instrument) => Instrument) => {
      const b = bench([tone, low], zones, (doc) => adjust(two(doc)));
      b.engine.midi(0x90, 60, 127);
      return b.play(19200).left.subarray(9600);
    };
    const level = (x: Float32Array, hertz: number) => {
      let [re, im] = [0, 0];
      x.forEach((v, i) => {
        re += v * Math.cos((2 * Math.PI * hertz * i) / RATE);
        im += v * Math.sin((2 * Math.PI * hertz * i) / RATE);
      });
      return Math.hypot(re, im);
    };
    const before = play((d) => d);
    const after = play((d) => done(d, addUnit("layers/second/inserts", half("a"))));
    expect(level(after, 110) / level(before, 110)).toBeCloseTo(0.5, 2);
    expect(level(after, 220) / level(before, 220)).toBeCloseTo(1, 2);
  });

  test("set back to the beginning, the same events give the same bits, whatever swings in the chain", () => {
    const b = held((d) => ({ ...d, effects: (["chorus", "phaser", "tremolo"] as const).map((k) => unit(k, k)) }));
    const first = b.play(9600).left;
    b.engine.reset();
    b.engine.midi(0x90, 60, 127);
    expect(b.play(9600).left).toEqual(first);
  });

  test("each bus keeps what any split of the time gives", () => {
    const rich = (d: Instrument): Instrument => {
      const units = (["chorus", "delay", "phaser"] as const).map((kind) => unit(kind, kind));
      const whole = { ...d, effects: units, sends: d.sends.map((s, i) => (i === 0 ? { ...s, units } : s)) };
      return set(done(whole, addUnit("layers/main/inserts", unit("tremolo", "t"))), "layers/main/sends/send1", -3);
    };
    const b = held(rich);
    const parts = held(rich);
    expect(parts.play(6000, 37).left).toEqual(b.play(6000).left);
  });
});

describe("edits under held notes", () => {
  const inserted = (d: Instrument) => done(d, addUnit("effects", half("a")));
  test.each<[string, (doc: Instrument) => Instrument, (doc: Instrument) => Instrument, number]>([
    ["adding to the whole's chain", (d) => d, inserted, 0.5],
    ["removing from it", inserted, (d) => done(d, removeUnit("effects", "a")), 2],
    ["switching off", inserted, (d) => set(d, "effects/a/on", 0), 2],
    ["switching on", (d) => set(inserted(d), "effects/a/on", 0), (d) => set(d, "effects/a/on", 1), 0.5],
    [
      "switching on where a whole row was off",
      (d) => set(done(d, addUnit("layers/main/inserts", half("a"))), "layers/main/inserts/a/on", 0),
      (d) => set(d, "layers/main/inserts/a/on", 1),
      0.5,
    ],
    ["adding the first insert of a layer", (d) => d, (d) => done(d, addUnit("layers/main/inserts", half("a"))), 0.5],
    [
      "removing the last",
      (d) => done(d, addUnit("layers/main/inserts", half("a"))),
      (d) => done(d, removeUnit("layers/main/inserts", "a")),
      2,
    ],
    [
      "adding a send",
      (d) => set(d, "layers/main/sends/send1", 0),
      (d) => done(d, addUnit("sends/send1", half("a"))),
      1.5,
    ],
  ])("%s: no step", (_, adjust, edit, factor) => {
    const { before, after, slope } = edited(adjust, edit);
    expect(after / before).toBeCloseTo(factor, 2);
    expect(slope).toBeLessThan(SLOPE * Math.max(1, factor > 1 && before > plain * 0.9 ? factor : 1));
  });

  test("a chain that is set anew as it is changes no bit; what rings goes on where others come and go", () => {
    const echoing = (d: Instrument) => done(d, addUnit("effects", unit("delay", "d", { time: 0.2, feedback: 0.7 })));
    const whole = held(echoing).play(19200).left;
    const again = held(echoing);
    const first = again.play(9600).left;
    again.change({ ...again.instrument });
    expect(first).toEqual(whole.subarray(0, 9600));
    expect(again.play(9600).left).toEqual(whole.subarray(9600));
    // A neutral unit before and one behind it: the echoes are still there.
    const b = held(echoing);
    b.play(9600);
    b.change(done(b.instrument, addUnit("effects", unit("stereo", "s"), 0), addUnit("effects", unit("stereo", "t"))));
    const rest = b.play(9600).left;
    const apart = rest.map((x, i) => x - (whole[9600 + i] as number));
    expect(peak(apart)).toBeLessThan(peak(whole) * 1e-4);
  });

  test("moved to another place, units are heard in the new order, without a step", () => {
    const order = (d: Instrument) =>
      done(d, addUnit("effects", half("a")), addUnit("effects", unit("crusher", "c", { bits: 16, rate: RATE })));
    const { before, after, slope } = edited(order, (d) => done(d, moveUnit("effects", "a", 1)));
    expect(after / before).toBeCloseTo(1, 2);
    expect(slope).toBeLessThan(SLOPE);
  });

  test.each([
    ["once", [1]],
    ["there and back within the ramp", [1, 0]],
    ["five times in a row", [1, 0, 1, 0, 1]],
  ])("moved %s, nothing of what a unit keeps back gets past it", (_, places) => {
    const quiet = (d: Instrument) =>
      done(d, addUnit("effects", unit("stereo", "q", { level: -40 })), addUnit("effects", unit("stereo", "w")));
    const b = held(quiet);
    const before = b.play(EDITED_AT).left;
    const all: number[] = [];
    let doc = b.instrument;
    for (const to of places) {
      doc = done(doc, moveUnit("effects", "q", to));
      b.change(doc);
      all.push(...b.play(96).left);
    }
    const after = b.play(9600).left;
    all.push(...after);
    const most = peak(before.subarray(4800));
    expect(peak(Float32Array.from(all)) / most).toBeCloseTo(1, 3);
    expect(rms(after.subarray(4800)) / rms(before.subarray(4800))).toBeCloseTo(1, 3);
    expect(doc.effects.map((u) => u.id)).toEqual(places.length % 2 ? ["w", "q"] : ["q", "w"]);
  });

  test("while an order comes in, others come and go within it and beside it, without a step", () => {
    const order = (d: Instrument) => done(d, ...["a", "b", "c"].map((id) => addUnit("effects", unit("stereo", id))));
    const b = held(order);
    const all: number[] = [...b.play(EDITED_AT).left];
    const edits: Edit[] = [
      moveUnit("effects", "a", 1),
      addUnit("effects", unit("stereo", "n"), 1),
      removeUnit("effects", "a"),
      moveUnit("effects", "c", 0),
      addUnit("effects", unit("stereo", "a")),
      removeUnit("effects", "n"),
    ];
    let doc = b.instrument;
    for (const edit of edits) {
      doc = done(doc, edit);
      b.change(doc);
      all.push(...b.play(41).left);
    }
    all.push(...b.play(9600).left);
    expect(doc.effects.map((u) => u.id)).toEqual(["c", "b", "a"]);
    expect(steepest(Float32Array.from(all), 4801)).toBeLessThan(SLOPE * 1.001);
    expect(rms(Float32Array.from(all.slice(-4800)))).toBeCloseTo(plain, 4);
  });

  test.each(kindsAt("main"))("a %s comes and goes without a step beyond the ramp's", (kind) => {
    const b = held((d) => d);
    b.play(4800);
    let most = 0;
    let last = 0;
    const listen = (frames: number) => {
      const { left } = b.play(frames);
      most = Math.max(most, steepest(left), Math.abs((left[0] as number) - last));
      last = left.at(-1) as number;
    };
    last = b.play(4855).left.at(-1) as number;
    const added = done(
      b.instrument,
      addUnit("effects", unit(kind, "u", kind === "crusher" ? { bits: 16, rate: 48000 } : {})),
    );
    b.change(added);
    listen(4800);
    b.change(set(added, "effects/u/on", 0));
    listen(4800);
    b.change(b.instrument);
    listen(4800);
    expect(most).toBeLessThan(SLOPE * 3);
  });
});

describe("peaks between units", () => {
  test("are taken while somebody watches: in front of and behind each unit, also of layers without any", () => {
    const b = held((d) => done(d, addUnit("effects", half("a")), addUnit("effects", unit("stereo", "off", { on: 0 }))));
    expect(b.engine.peaks()).toBeNull();
    const before = b.play(9600).left;
    b.engine.watch(true);
    const after = b.play(9600).left;
    const peaks = b.engine.peaks() ?? {};
    const into = peaks["layers/main"] as number;
    expect(into).toBeCloseTo(peak(before) * 2, 2);
    expect(peaks.effects).toBeCloseTo(into, 6);
    expect(peaks["effects/a"]).toBeCloseTo(into / 2, 3);
    expect(peaks["effects/off"]).toBe(peaks["effects/a"]);
    // Watching is not heard.
    expect(rms(after)).toBeCloseTo(rms(before), 4);
    expect(b.engine.peaks()?.effects).toBe(0);
    b.engine.watch(false);
    b.play(480);
    expect(b.engine.peaks()).toBeNull();
  });
});

describe("switches and movement", () => {
  test("a macro switches a unit by a route; a note's own sources can't, and it says why", () => {
    const doc = done(bare(held((d) => d).instrument), addUnit("effects", half("a")));
    const off = set(doc, "effects/a/on", 0);
    const route = { id: "r", source: "macros/macro1", target: "effects/a/on", amount: 1 };
    const moved = done(off, addRoute(route));
    const at = (value: number) => {
      const b = bench([tone], zones, () => set(moved, "macros/macro1/value", value));
      b.engine.midi(0x90, 60, 127);
      return rms(b.play(9600).left.subarray(4800)) / plain;
    };
    expect([at(0), at(1)].map((x) => Math.round(x * 100) / 100)).toEqual([1, 0.5]);
    const full = { ...route, on: true, curve: null, scale: null, smooth: null };
    expect(routeProblem(moved, { ...full, source: "velocity" })).toMatch(/belongs to each note/);
    const inserted = done(doc, addUnit("layers/main/inserts", half("i")));
    expect(routeProblem(inserted, { ...full, target: "layers/main/inserts/i/level", source: "velocity" })).toMatch(
      /belongs to each note/,
    );
  });

  test("a filter that is switched off lets everything pass", () => {
    const dark = (d: Instrument) =>
      set(set(d, "layers/main/stages/filter/type", "low"), "layers/main/stages/filter/cutoff", 50);
    const level = (adjust: (d: Instrument) => Instrument) => rms(held(adjust).play(9600).left.subarray(4800)) / plain;
    expect(level(dark)).toBeLessThan(0.1);
    expect(level((d) => set(dark(d), "layers/main/stages/filter/on", 0))).toBeCloseTo(1, 2);
  });

  test("a unit into which nothing comes sleeps: what is left of it is nothing at all", () => {
    const b = held((d) =>
      set(done(d, addUnit("effects", unit("reverb", "r", { mix: 1, decay: 0.3 }))), "layers/main/amp/release", 0.01),
    );
    b.play(9600);
    b.engine.midi(0x80, 60, 0);
    b.play(RATE * 2);
    expect(peak(b.play(4800).left)).toBe(0);
    b.engine.midi(0x90, 60, 127);
    expect(peak(b.play(4800).left)).toBeGreaterThan(0.1);
  });
});

describe("layers heard alone", () => {
  const two = (): Bench => {
    const b = bench([sine(96000, 220, 0.2), sine(96000, 1700, 0.2)], [{ root: 60, track: 0 }], (doc) => {
      const zone = { ...(doc.layers[0]?.groups[0]?.zones[0] as Zone), id: "high", sample: BENCH_SHA(1) };
      const high = newLayer("high", "High");
      const placed = {
        ...high,
        stages: [],
        strip: (doc.layers[0] as Layer).strip,
        amp: (doc.layers[0] as Layer).amp,
        groups: high.groups.map((g) => ({ ...g, zones: [zone] })),
      };
      return { ...doc, layers: [...doc.layers, placed] };
    });
    b.engine.midi(0x90, 60, 100);
    return b;
  };
  /** Power at a frequency. */
  const at = (x: Float32Array, hertz: number): number => {
    let [re, im] = [0, 0];
    x.forEach((v, i) => {
      re += v * Math.cos((2 * Math.PI * hertz * i) / RATE);
      im += v * Math.sin((2 * Math.PI * hertz * i) / RATE);
    });
    return (2 * Math.hypot(re, im)) / x.length;
  };

  test("the others go silent within 3 ms and without a step, and come back; a new plan changes nothing of it", () => {
    const b = two();
    b.play(4855);
    b.engine.solo(["high"]);
    const turning = b.play(480).left;
    expect(steepest(turning)).toBeLessThan(0.09);
    let { left } = b.play(9600);
    expect(at(left, 220)).toBeLessThan(1e-4);
    expect(at(left, 1700)).toBeGreaterThan(0.15);
    b.change(b.instrument);
    ({ left } = b.play(9600));
    expect(at(left, 220)).toBeLessThan(1e-4);
    b.engine.solo([]);
    b.play(480);
    ({ left } = b.play(9600));
    expect(at(left, 220)).toBeGreaterThan(0.15);
    expect(at(left, 1700)).toBeGreaterThan(0.15);
  });

  test("one that isn't there leaves all of them heard", () => {
    const b = two();
    b.engine.solo(["gone"]);
    expect(at(b.play(9600).left, 220)).toBeGreaterThan(0.15);
  });
});
