import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { changeAbout, changeRules, together } from "./about-edits";
import { checkInstrument } from "./check";
import { deadReferences } from "./dead-references";
import {
  newGroup,
  newInstrument,
  newLayer,
  newLoop,
  newRoute,
  newSample,
  newSlice,
  newTake,
  newUnit,
  newZone,
} from "./defaults";
import type { Edit } from "./edit";
import { moving } from "./face-defaults";
import { addFaceItem, removeFaceItem } from "./face-edits";
import { addGroup, removeGroup } from "./group-edits";
import { History } from "./history";
import type { Instrument } from "./instrument";
import { addLayer, changeLayer, removeLayer } from "./layer-edits";
import { migrate } from "./migrate";
import { addRoute, addUnit, removeRoute, removeUnit, renameUnit, setCurve, setParam, setRoom } from "./param-edits";
import { cutText } from "./settle";
import { faultText, settleInstrument } from "./settle-document";
import { addTake } from "./take-edits";
import { addSamples, changeZones, placeZones, removeZones } from "./zone-edits";

const sha = "ab".repeat(32);
const impulse = "cd".repeat(32);
const LINE = [
  { x: 0, y: 0, bend: 0 },
  { x: 1, y: 1, bend: 0.5 },
];

/** A document with something in every list. */
const rich = (): Instrument =>
  together("", [
    addSamples([newSample({ sha, name: "one", frames: 1000 })]),
    addUnit("mics", newUnit("mic", "near")),
    addUnit("sets", newUnit("set", "which")),
    addUnit("envelopes", newUnit("path", "course")),
    setCurve("envelopes/course", LINE),
    addLayer({ ...newLayer("second", "Second"), set: "which" }),
    addGroup("second", newGroup("other", "Other")),
    placeZones(
      "main",
      "main",
      [
        newZone({ id: "z1", sample: sha, end: 1000, mic: "near", loop: newLoop({ start: 10, end: 500 }) }),
        newZone({ id: "z2", sample: sha, end: 900 }),
      ],
      false,
    ),
    placeZones("second", "main", [newZone({ id: "z3", sample: sha, end: 1000, mic: "near" })], false),
    setRoom(newSample({ sha: impulse, name: "room", frames: 500, use: "impulse" })),
    addRoute({ id: "r1", source: "lfos/lfo1", target: "layers/main/stages/filter/cutoff", amount: 1, curve: LINE }),
    addRoute({ id: "r2", source: "macros/macro1", target: "routes/r1/amount", amount: 1, scale: "lfos/lfo1" }),
    addRoute({
      id: "r3",
      source: "wheel",
      target: "layers/second/groups/other/level",
      amount: 3,
      scale: "envelopes/course",
    }),
    addFaceItem({
      id: "d1",
      kind: "dial",
      x: 1,
      y: 1,
      width: 60,
      height: 60,
      text: "",
      moves: moving("macros/macro1/value"),
    }),
    addFaceItem({
      id: "d2",
      kind: "dial",
      x: 1,
      y: 1,
      width: 60,
      height: 60,
      text: "",
      moves: moving("lfos/lfo1/rate"),
    }),
    addFaceItem({
      id: "d3",
      kind: "dial",
      x: 1,
      y: 1,
      width: 60,
      height: 60,
      text: "",
      moves: moving("layers/second/strip/level"),
    }),
    addTake(
      newTake({
        ...{ id: "t", name: "t", sha, rate: 44100, channels: 1, frames: 1000, origin: "imported" },
        slices: [newSlice({ id: "s", start: 0, end: 100, treatments: [newUnit("gain", "g")] })],
        markers: [{ at: 5, length: 0, name: "here" }],
      }),
    ),
    (() => ({
      name: "",
      apply: (doc: Instrument) => ({
        ...doc,
        shots: [{ id: "a", name: "C4", note: 60, strength: 1, strengths: 1, repeat: 1, state: "open" as const }],
        tuning: { name: "even", keys: Array.from({ length: 128 }, (_, k) => k) },
      }),
    }))(),
  ]).apply(newInstrument("rich", "Rich"));

/** The paths of every value in a document, lists and objects included; of lists and parameters only the first, for they are alike. */
function pathsOf(value: unknown, path: readonly string[] = []): (readonly string[])[] {
  const inner =
    typeof value === "object" && value !== null
      ? Object.entries(value)
          .filter(([key], i) => !(Number(key) > 0) && (path.at(-1) !== "params" || i < 2))
          .flatMap(([key, part]) => pathsOf(part, [...path, key]))
      : [];
  return path.length > 0 ? [path, ...inner] : inner;
}

/** The document with another value at a path. */
function put(doc: unknown, [key, ...rest]: readonly string[], value: unknown): unknown {
  if (key === undefined) return value;
  if (Array.isArray(doc)) return doc.map((part, i) => (String(i) === key ? put(part, rest, value) : part));
  const object = doc as Record<string, unknown>;
  return { ...object, [key]: put(object[key], rest, value) };
}

/** The value at a path. */
const found = (doc: unknown, path: readonly string[]): unknown =>
  path.reduce((part: unknown, key) => (part as Record<string, unknown>)[key], doc);

/** Values that don't belong there; long lists only where lists are. */
const odd = (there: unknown, path: readonly string[]): readonly unknown[] => [
  1.5,
  -1,
  0,
  1e308,
  -1e308,
  Number.NaN,
  Number.POSITIVE_INFINITY,
  "",
  "12",
  "x".repeat(path.at(-1) === "script" ? 200001 : 20001),
  "😀".repeat(101),
  null,
  true,
  [],
  {},
  ...(Array.isArray(there) ? [Array(301).fill(there[0] ?? null)] : []),
];

/** What loading would find wrong with a document, without the frame around it that names each field: that takes twice as long. */
const faultsOf = (doc: Instrument): readonly string[] =>
  settleInstrument(JSON.parse(JSON.stringify(doc))).faults.map(faultText);

const reloaded = (doc: Instrument) => checkInstrument(JSON.parse(JSON.stringify(doc)));

describe("no document locks its owner out", () => {
  test("every field of every part set to every odd value: the edit settles or is refused, and what comes of it is read again", () => {
    const doc = rich();
    expect(reloaded(doc)).toEqual({ ok: true, instrument: doc });
    const before = History.of(doc);
    for (const path of pathsOf(doc)) {
      for (const value of odd(found(doc, path), path)) {
        const edit: Edit = { name: "odd", apply: (d) => put(d, path, value) as Instrument };
        const { present } = before.commit(edit);
        const [wrong] = faultsOf(present);
        if (wrong !== undefined) throw new Error(`${path.join("/")} = ${String(value).slice(0, 20)}: ${wrong}`);
      }
    }
  }, 120000);

  test("every field missing or odd in a stored document: it opens, and what was wrong is said", () => {
    const doc = rich();
    for (const path of pathsOf(doc)) {
      if (path[0] === "version") continue;
      // What each odd value becomes is tested above, by edits: here one of each kind.
      for (const value of [undefined, null, 1.5, Number.NaN, "12", true, {}, []]) {
        const raw = put(doc, path, value);
        const { instrument, faults } = migrate(raw);
        if (!instrument) {
          expect(path).toEqual(["id"]);
          continue;
        }
        if (faults.length === 0) expect(checkInstrument(raw)).toMatchObject({ ok: true });
        const [wrong] = faultsOf(instrument);
        if (wrong !== undefined) throw new Error(`${path.join("/")} = ${String(value).slice(0, 20)}: ${wrong}`);
      }
    }
  }, 120000);

  test.each<[string, Edit, (doc: Instrument) => unknown, unknown]>([
    [
      "a repeat of 1.5",
      changeZones(new Set(["z1"]), "Set", (z) => ({ ...z, repeat: 1.5 })),
      (d) => d.layers[0]?.groups[0]?.zones[0]?.repeat,
      2,
    ],
    ["a long name", changeAbout({ name: "n".repeat(500) }), (d) => d.about.name.length, 200],
    ["a long macro name", renameUnit("macros/macro1", "n".repeat(500)), (d) => d.macros[0]?.name.length, 200],
    ["a long layer name", changeLayer("main", { name: "n".repeat(500) }), (d) => d.layers[0]?.name.length, 200],
    ["a seed stepped beyond its end", changeRules({ seed: 2 ** 32 }), (d) => d.rules.seed, 2 ** 32 - 1],
    ["no number at all", changeRules({ seed: Number.NaN }), (d) => d.rules.seed, 1],
  ])("%s is settled or refused", (_, edit, read, expected) => {
    const { present } = History.of(rich()).commit(edit);
    expect(read(present)).toBe(expected);
    expect(reloaded(present).ok).toBe(true);
  });

  test("a 65th LFO and a 33rd microphone are refused in words; nothing is changed", () => {
    let history = History.of(rich());
    for (let i = 0; i < 63; i++) history = history.commit(addUnit("lfos", newUnit("lfo", `more${i}`)));
    for (let i = 0; i < 31; i++) history = history.commit(addUnit("mics", newUnit("mic", `more${i}`)));
    const told: string[] = [];
    for (const edit of [addUnit("lfos", newUnit("lfo", "last")), addUnit("mics", newUnit("mic", "last"))])
      expect(history.commit(edit, null, (faults) => told.push(...faults.map(faultText)))).toBe(history);
    expect(told).toEqual([
      "lfos holds 65: there can be no more than 64 LFOs",
      "mics holds 33: there can be no more than 32 microphones",
    ]);
  });

  test("ids that are there twice are told apart, also between layers", () => {
    const doc = rich();
    const twice = placeZones("second", "main", [newZone({ id: "z1", sample: sha, end: 10 })], false).apply(doc);
    expect(checkInstrument(twice)).toMatchObject({ ok: false });
    const { instrument, faults } = settleInstrument(twice);
    expect(faults).toHaveLength(1);
    expect(faults[0]).toMatchObject({ loses: false });
    const ids = instrument?.layers.flatMap((l) => l.groups.flatMap((g) => g.zones.map((z) => z.id))) ?? [];
    expect(new Set(ids).size).toBe(ids.length);
    const { present } = History.of(doc).commit({ name: "", apply: () => twice });
    expect(reloaded(present).ok).toBe(true);
  });

  test("what an edit didn't touch stays the very same", () => {
    const { present } = History.of(rich());
    const next = History.of(present).commit(changeZones(new Set(["z1"]), "Set", (z) => ({ ...z, root: 999 }))).present;
    expect(next.takes).toBe(present.takes);
    expect(next.layers[0]?.groups[0]?.zones[1]).toBe(present.layers[0]?.groups[0]?.zones[1]);
    expect(next.layers[0]?.groups[0]?.zones[0]?.root).toBe(127);
  });

  test("numbers as text, unknown parameters and keys of other languages' making are faults, not values", () => {
    const doc = rich();
    expect(checkInstrument({ ...doc, rules: { ...doc.rules, seed: "7" } })).toMatchObject({ ok: false });
    const params = JSON.parse('{"voices": 8, "__proto__": 3, "loudness": 9}');
    const { instrument, faults } = migrate({ ...doc, play: { ...doc.play, params } });
    expect(instrument?.play.params.voices).toBe(8);
    expect(faults.map((f) => f.path)).toEqual(["play.params.__proto__", "play.params.loudness"]);
  });

  test("text is never cut through a character", () => {
    expect(cutText("a😀", 2)).toBe("a");
    expect(cutText("a😀", 3)).toBe("a😀");
  });
});

describe("removing", () => {
  const removals: readonly ((doc: Instrument) => Edit)[] = [
    () => removeUnit("lfos", "lfo1"),
    () => removeUnit("macros", "macro1"),
    () => removeUnit("envelopes", "course"),
    () => removeUnit("mics", "near"),
    () => removeUnit("sets", "which"),
    () => removeUnit("effects", "reverb"),
    () => removeLayer("second"),
    () => removeLayer("main"),
    () => removeGroup("second", "other"),
    () => removeRoute("r1"),
    () => removeRoute("r2"),
    () => removeZones(new Set(["z1", "z3"])),
    () => removeFaceItem("d1"),
    (doc) => setParam(doc, "play/voices", 3),
    () => addRoute(newRoute({ id: "r9", source: "bend", target: "play/level", amount: 1 })),
  ];

  test("takes its references along: no dead address after any edits", () => {
    expect(deadReferences(rich())).toEqual([]);
    fc.assert(
      fc.property(fc.array(fc.nat(removals.length - 1), { minLength: 1, maxLength: 8 }), (picks) => {
        let history = History.of(rich());
        for (const pick of picks) {
          history = history.commit((removals[pick] as (doc: Instrument) => Edit)(history.present));
          expect(deadReferences(history.present)).toEqual([]);
          expect(reloaded(history.present).ok).toBe(true);
        }
      }),
      { seed: 5 },
    );
  });

  test("a route that is removed takes along those that led to its amount; a dial stays, unbound", () => {
    const doc = removeUnit("lfos", "lfo1").apply(rich());
    expect(doc.routes.map((r) => r.id)).toEqual(["r3"]);
    expect(doc.face.items.map((i) => i.moves[0]?.address ?? null)).toEqual([
      "macros/macro1/value",
      null,
      "layers/second/strip/level",
    ]);
  });

  test("what is dead in a stored document is told and let go of", () => {
    const doc = rich();
    const { instrument, faults } = migrate({ ...doc, lfos: [] });
    expect(faults.map((f) => f.path)).toEqual(["routes[0].source", "routes[1].scale", "face.items[1].moves[0]"]);
    expect(faults.every((f) => !f.loses)).toBe(true);
    expect(instrument && deadReferences(instrument)).toEqual([]);
  });
});
