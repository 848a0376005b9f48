import { describe, expect, test } from "@jest/globals";
import {
  addGroup,
  addLayer,
  addRoute,
  addUnit,
  changeFaceItem,
  changeGroup,
  changeLayer,
  changeRoute,
  changeRules,
  changeZones,
  duplicateGroup,
  type Edit,
  type Instrument,
  moveGroup,
  moveLayer,
  moveZones,
  newGroup,
  newLayer,
  newLoop,
  newUnit,
  newZone,
  partIntoGroups,
  placeZones,
  removeGroup,
  removeLayer,
  removeRoute,
  removeUnit,
  removeZones,
  renameUnit,
  setCurve,
  setParam,
  together,
} from "../instrument";
import { BENCH_SHA, bench, peak, RATE, rms, sine, steepest } from "./test-bench";

const FREQUENCY = 200;
const LEVEL = 0.3;
const LENGTH = RATE;
const HELD = { root: 60, loop: newLoop({ start: 0, end: LENGTH }) };
/** The steepest that the held tone itself is, where it isn't louder than it began. */
const STEEP = 2 * LEVEL * Math.SQRT1_2 * Math.SQRT2 * Math.sin((Math.PI * FREQUENCY) / RATE);

/** A held tone: an octave up by an envelope at rest, a smoothed route from the wheel, an LFO that moves nothing yet, two filters. */
const rich = (instrument: Instrument): Instrument =>
  together("", [
    addUnit("envelopes", newUnit("envelope", "env")),
    setShort,
    addUnit("lfos", newUnit("lfo", "slow")),
    addRoute({ id: "up", source: "envelopes/env", target: "layers/main/source/transpose", amount: 12 }),
    addRoute({ id: "loud", source: "wheel", target: "layers/main/strip/level", amount: -6, smooth: 2 }),
    addRoute({ id: "pan", source: "velocity", target: "layers/main/strip/pan", amount: 0.5, smooth: 1 }),
    setParam(instrument, "layers/main/stages/filter/type", "low"),
    setParam(instrument, "layers/main/stages/filter/cutoff", 9000),
    addLayer(newLayer("above", "Above")),
    addLayer(newLayer("below", "Below")),
    placeZones(
      "above",
      "main",
      [newZone({ id: "far", sample: BENCH_SHA(0), end: 900, keyLow: 100, keyHigh: 110 })],
      false,
    ),
  ]).apply(instrument);

/** At rest by the time of the edits. */
const setShort: Edit = {
  name: "",
  apply: (doc) => setParam(doc, "envelopes/env/decay", 0.02).apply(doc),
};

/** The layers in another order, as removing and undoing may leave them. */
const turned: Edit = { name: "", apply: (doc) => ({ ...doc, layers: [...doc.layers].reverse() }) };

/** Edits that are not to be heard at all in a note that is held. */
const UNHEARD: readonly (readonly [string, (doc: Instrument) => Edit])[] = [
  ["an LFO is added", () => addUnit("lfos", newUnit("lfo", "more"))],
  ["an envelope is added", () => addUnit("envelopes", newUnit("envelope", "more"))],
  ["an LFO that moves nothing is removed", () => removeUnit("lfos", "slow")],
  ["a macro is added", () => addUnit("macros", newUnit("macro", "more"))],
  ["a microphone is added", () => addUnit("mics", newUnit("mic", "near"))],
  ["a layer is added", () => addLayer(newLayer("more", "More"))],
  ["a later layer is removed", () => removeLayer("below")],
  ["the layers are turned round", () => turned],
  ["a group is added", () => addGroup("main", newGroup("more", "More"))],
  [
    "its zone goes to another group",
    () => together("", [addGroup("main", newGroup("g", "G")), moveZones(new Set(["z0"]), "main", "g")]),
  ],
  [
    "its group is copied, and the copy taken away",
    () => together("", [duplicateGroup("main", "main", "Again"), removeGroup("main", "main-2")]),
  ],
  [
    "a group is put before its own",
    () => together("", [addGroup("main", newGroup("more", "More")), moveGroup("main", "more", "main", 0)]),
  ],
  ["its zone is parted into a group of its own", () => partIntoGroups(new Set(["z0"]), () => "Tone")],
  ["its layer goes to the end", () => moveLayer("main", 2)],
  [
    "its group is marked and noted",
    () => together("", [changeGroup("main", "main", { mark: "teal" }), changeGroup("main", "main", { note: "rim" })]),
  ],
  ["its layer is renamed", () => changeLayer("main", { name: "Other" })],
  ["a unit is renamed", () => renameUnit("layers/main/stages/filter", "Tone")],
  ["another zone is removed", () => removeZones(new Set(["far"]))],
  ["another zone is moved", () => changeZones(new Set(["far"]), "Move", (z) => ({ ...z, keyLow: 90 }))],
  [
    "its keys are moved away from the note",
    () => changeZones(new Set(["z0"]), "Move", (z) => ({ ...z, keyHigh: 59, keyLow: 50 })),
  ],
  ["rules are switched on", () => changeRules({ on: true, script: "" })],
  ["a curve is drawn that nothing uses", () => setCurve("lfos/slow", [{ x: 0, y: 0, bend: 0 }])],
  [
    "a route to another layer is added",
    () => addRoute({ id: "r", source: "lfos/slow", target: "layers/above/strip/pan", amount: 1 }),
  ],
  [
    "a route with amount zero is added",
    () => addRoute({ id: "r", source: "lfos/slow", target: "layers/main/strip/pan", amount: 0 }),
  ],
  ["a route is switched off that was at rest", () => changeRoute("none", { on: false })],
  ["the face is changed", () => changeFaceItem("none", "Move", { x: 1 })],
  ["the number of voices is set", (doc) => setParam(doc, "play/voices", 32)],
  [
    "the loop's end moves and comes back",
    () => changeZones(new Set(["z0"]), "Loop", (z) => ({ ...z, loop: { ...HELD.loop, end: LENGTH - 2400 } })),
  ],
];

/** Edits that are heard, but must not click. */
const SMOOTH: readonly (readonly [string, (doc: Instrument) => Edit])[] = [
  ["the filter becomes a ladder", (doc) => setParam(doc, "layers/main/stages/filter/model", "ladder")],
  [
    "a filter is added",
    () => ({
      name: "",
      apply: (doc) => ({
        ...doc,
        layers: doc.layers.map((l) =>
          l.id === "main" ? { ...l, stages: [...l.stages, newUnit("filter", "second")] } : l,
        ),
      }),
    }),
  ],
  [
    "the filter is removed",
    () => ({
      name: "",
      apply: (doc) => ({ ...doc, layers: doc.layers.map((l) => (l.id === "main" ? { ...l, stages: [] } : l)) }),
    }),
  ],
  ["its zone is removed", () => removeZones(new Set(["z0"]))],
  ["its layer is removed", () => removeLayer("main")],
  ["its group goes to another layer", () => moveGroup("main", "main", "above", 0)],
  ["its zone goes to another layer", () => moveZones(new Set(["z0"]), "above", "main")],
  ["its zone's level falls", () => changeZones(new Set(["z0"]), "Level", (z) => ({ ...z, gain: -12 }))],
  ["its loop is taken away", () => changeZones(new Set(["z0"]), "Loop", (z) => ({ ...z, loop: null }))],
  [
    "its loop begins elsewhere",
    () => changeZones(new Set(["z0"]), "Loop", (z) => ({ ...z, loop: newLoop({ start: 480, end: 9600, fade: 240 }) })),
  ],
  ["a smoothed route is removed", () => removeRoute("loud")],
  [
    "its layer is silenced by a set",
    () => together("", [addUnit("sets", newUnit("set", "s")), changeLayer("main", { set: "s" })]),
  ],
];

/** Plays a note, edits after some frames, and plays on, as one stretch of sound. */
function heard(edit: ((doc: Instrument) => Edit) | null, at: number, after: number): Float32Array {
  const b = bench([sine(LENGTH, FREQUENCY, LEVEL)], [HELD], rich);
  b.engine.midi(0xb0, 1, 90);
  b.engine.midi(0x90, 60, 100);
  const before = b.play(at).left;
  if (edit) b.change(edit(b.instrument).apply(b.instrument));
  const out = new Float32Array(at + after);
  out.set(before);
  out.set(b.play(after).left, at);
  expect(out.every(Number.isFinite)).toBe(true);
  return out;
}

/** At different places in the tone's period, in the control step and in the block. */
const MOMENTS = [6000, 6060, 6113];

/** Frames that are looked at after an edit. */
const AFTER = 4800;
const known = new Map<number, Float32Array>();

/** The same note without an edit. */
function unedited(at: number): Float32Array {
  const plain = known.get(at) ?? heard(null, at, AFTER);
  known.set(at, plain);
  return plain;
}

describe("edits under a held note", () => {
  test.each(UNHEARD)("not heard: %s", (_, edit) => {
    for (const at of MOMENTS) {
      const plain = unedited(at);
      const edited = heard(edit, at, AFTER);
      const difference = plain.map((x, i) => x - (edited[i] as number));
      // Handed over or not: 60 dB below the note at the most, and nothing at all in the end.
      expect(peak(difference)).toBeLessThan(peak(plain) * 0.001);
      expect(peak(difference.subarray(-2400))).toBeLessThan(1e-4);
      expect(rms(edited.subarray(-2400))).toBeGreaterThan(0.1);
    }
  });

  test.each(SMOOTH)("no click: %s", (_, edit) => {
    for (const at of MOMENTS) {
      const out = heard(edit, at, AFTER);
      // An octave up the tone is twice as steep; crossing two of them in 3 ms adds a little.
      expect(steepest(out, 3000)).toBeLessThan(STEEP * 2 * 1.3);
    }
  });

  test("two notes of one pair, one of which dies away: a layer before theirs is removed, and both come to their end", () => {
    const b = bench([sine(LENGTH, FREQUENCY, LEVEL)], [HELD], (doc) =>
      together("", [
        turned,
        (() => {
          const full = rich(doc);
          return { name: "", apply: () => ({ ...full, layers: [...full.layers].reverse() }) };
        })(),
      ]).apply(doc),
    );
    const choking = together("", [
      setParam(b.instrument, "layers/main/groups/main/chokeGroup", 1),
      setParam(b.instrument, "layers/main/groups/main/chokeFade", 2),
    ]).apply(b.instrument);
    b.change(choking);
    b.engine.midi(0x90, 60, 100);
    b.play(4800);
    b.engine.midi(0x90, 62, 100);
    b.play(4800);
    b.change(removeLayer("below").apply(choking));
    b.play(2 * RATE + 4800);
    expect(b.engine.status().voices).toBe(1);
    b.engine.midi(0xb0, 123, 0);
    b.play(4800);
    expect(b.engine.status().voices).toBe(0);
  });

  test.each([false, true])(
    "a loop that becomes a short one long before where the sound is (reversed: %s) is gone on in",
    (reverse) => {
      const b = bench(
        [sine(10 * RATE, 220, 0.3)],
        [{ root: 60, reverse, loop: newLoop({ start: 100, end: 10 * RATE - 100 }) }],
      );
      b.engine.midi(0x90, 60, 100);
      b.play(8 * RATE);
      const short = reverse ? { start: 9 * RATE, end: 9 * RATE + 480 } : { start: RATE, end: RATE + 480 };
      b.change(changeZones(new Set(["z0"]), "", (z) => ({ ...z, loop: newLoop(short) })).apply(b.instrument));
      b.play(RATE);
      expect(b.engine.status().voices).toBe(1);
      expect(rms(b.play(RATE).left)).toBeGreaterThan(0.1);
      b.engine.midi(0x80, 60, 0);
      b.play(RATE);
      expect(b.engine.status().voices).toBe(0);
    },
  );

  test("an edit after an edit after an edit: the note is still the same, and no voice is left over", () => {
    const b = bench([sine(LENGTH, FREQUENCY, LEVEL)], [HELD], rich);
    b.engine.midi(0xb0, 1, 90);
    b.engine.midi(0x90, 60, 100);
    b.play(6000);
    let doc = b.instrument;
    for (let i = 0; i < 60; i++) {
      doc = changeZones(new Set(["z0"]), "Loop", (z) => ({
        ...z,
        loop: newLoop({ start: 0, end: LENGTH - 240 * (i % 3) }),
      })).apply(doc);
      b.change(doc);
      b.play(37);
    }
    const { left } = b.play(9600);
    expect(rms(left)).toBeGreaterThan(0.1);
    expect(b.engine.status().voices).toBe(1);
    b.engine.midi(0x80, 60, 0);
    b.play(2 * RATE);
    expect(b.engine.status().voices).toBe(0);
  });
});
