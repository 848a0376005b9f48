import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { seededRandom } from "../audio";
import { changeRules, together } from "./about-edits";
import { findParam, findUnit, listParams } from "./address";
import { checkInstrument } from "./check";
import { newGroup, newId, newInstrument, newLoop, newSample, newSlice, newTake, newUnit, newZone } from "./defaults";
import type { Edit } from "./edit";
import { moving } from "./face-defaults";
import { addFaceItem, changeFaceItem } from "./face-edits";
import { replaceSamples } from "./follow-sample";
import { History } from "./history";
import { DOCUMENT_VERSION, type Instrument } from "./instrument";
import { changeLayer } from "./layer-edits";
import { migrate } from "./migrate";
import { addRoute, addUnit, moveUnitTo, removeUnit, setParam } from "./param-edits";
import { faultText } from "./settle-document";
import { listSources } from "./sources";
import { addTake, changeSlices, mergeIntoOne, removeSlices, splitSlice } from "./take-edits";
import { addSamples, changeZones, listZones, placeZones, removeZones, settleZone } from "./zone-edits";

const sha = "ab".repeat(32);
const zone = (id: string) => newZone({ id, sample: sha, end: 1000 });
const sample = newSample({ sha, name: "one", frames: 1000, pitch: 60.1, confidence: 0.9, peak: -6, loudness: -12 });

const opened = (raw: unknown): { instrument: Instrument } => {
  const { instrument, faults } = migrate(raw);
  if (!instrument || faults.length > 0) throw new Error(faults.map(faultText).join());
  return { instrument };
};

const filled = (): Instrument =>
  together("", [addSamples([sample]), placeZones("main", "main", [zone("z1"), zone("z2")], false)]).apply(
    newInstrument("test", "Test"),
  );

test("a unit that moves to another list takes the routes and dials along that name it, and gets an id that is free there", () => {
  const doc = newInstrument("x", "X");
  const insert = { ...newUnit("delay", "reverb"), name: "Echo" };
  const start = [
    addUnit("layers/main/inserts", insert),
    addRoute({ id: "r", source: "wheel", target: "layers/main/inserts/reverb/mix", amount: 0.5 }),
    addFaceItem({
      id: "d",
      kind: "dial",
      x: 0,
      y: 0,
      width: 64,
      height: 64,
      text: "",
      moves: moving("layers/main/inserts/reverb/time"),
    }),
  ].reduce((d, e) => e.apply(d), doc);
  const moved = moveUnitTo("layers/main/inserts", "reverb", "effects", 0).apply(start);
  expect(moved.layers[0]?.inserts).toEqual([]);
  expect(moved.effects.map((u) => u.id)).toEqual(["reverb-2", "reverb"]);
  expect(moved.effects[0]).toEqual({ ...insert, id: "reverb-2" });
  expect(moved.routes[0]?.target).toBe("effects/reverb-2/mix");
  expect(moved.face.items[0]?.moves[0]?.address).toBe("effects/reverb-2/time");
  expect(findParam(moved, "effects/reverb-2/mix")).not.toBeNull();
  expect(moveUnitTo("effects", "gone", "sends/send1", 0).apply(moved)).toBe(moved);
  expect(moveUnitTo("effects", "reverb", "sends/nobody", 0).apply(moved)).toBe(moved);
});

const SHA_OLD = "c".repeat(64);

describe("edits", () => {
  test("every parameter is found at its address, and its value set there is read there", () => {
    const doc = newInstrument("test", "Test");
    for (const { address, spec } of listParams(doc)) {
      const value = spec.type === "number" ? (spec.min + spec.max) / 2 : (spec.choices.at(-1)?.id ?? "");
      expect(findParam(setParam(doc, address, value).apply(doc), address)?.value).toBe(value);
    }
  });

  test("misuse throws, numbers are kept in range, an edit names itself", () => {
    const doc = newInstrument("test", "Test");
    expect(() => setParam(doc, "layers/none/strip/level", 0)).toThrow(RangeError);
    expect(() => setParam(doc, "layers/main/stages/filter/type", "sideways")).toThrow(RangeError);
    const edit = setParam(doc, "layers/main/strip/level", 99);
    expect(edit.name).toBe("Set Layer level to 12.0 dB");
    expect(findParam(edit.apply(doc), "layers/main/strip/level")?.value).toBe(12);
  });

  test("undo gives back exactly what was, redo what came, for any series of edits", () => {
    const edits: ((doc: Instrument) => Edit)[] = [
      (doc) => setParam(doc, "layers/main/stages/filter/cutoff", 500),
      () => changeZones(new Set(["z1"]), "Set root", (z) => ({ ...z, root: 40 })),
      () => removeZones(new Set(["z2"])),
      () => addRoute({ id: "r1", source: "wheel", target: "layers/main/source/fine", amount: 20, on: true }),
      () => removeUnit("macros", "macro1"),
      () => changeRules({ on: true }),
      () =>
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
    ];
    fc.assert(
      fc.property(fc.array(fc.nat(edits.length - 1), { maxLength: 20 }), (picks) => {
        let history = History.of(filled());
        const states = [history.present];
        for (const pick of picks) {
          const edit = edits[pick];
          if (!edit) continue;
          const next = history.commit(edit(history.present));
          if (next !== history) states.push(next.present);
          history = next;
        }
        for (let i = states.length - 2; i >= 0; i--) {
          history = history.undo();
          expect(history.present).toBe(states[i]);
        }
        for (let i = 1; i < states.length; i++) {
          history = history.redo();
          expect(history.present).toBe(states[i]);
        }
      }),
    );
  });

  test("an edit that changes nothing is no step and keeps what may be redone; a drag there and back is none either", () => {
    const begun = History.of(filled());
    const done = begun.commit(setParam(begun.present, "play/voices", 9));
    const undone = done.undo();
    const same: Edit = {
      name: "Nothing",
      apply: (doc) => ({ ...doc, takes: [...doc.takes], layers: doc.layers.map((l) => ({ ...l })) }),
    };
    expect(undone.commit(same)).toBe(undone);
    expect(undone.commit(splitSlice("none", "none", 5))).toBe(undone);
    expect(undone.redoName).toBe("Set Playing voices to 9");
    let drag = begun;
    for (const level of [-3, -9, -6])
      drag = drag.commit({ ...setParam(drag.present, "layers/main/strip/level", level), anew: true }, "drag");
    expect(drag.undoName).toBeNull();
    expect(drag.present).toBe(begun.present);
  });

  test("one drag is one step", () => {
    let history = History.of(filled());
    for (const level of [-1, -2, -3])
      history = history.commit(setParam(history.present, "layers/main/strip/level", level), "drag-1");
    history = history.commit(setParam(history.present, "layers/main/strip/level", -9), "drag-2");
    history = history.undo();
    expect(findParam(history.present, "layers/main/strip/level")?.value).toBe(-3);
    expect(history.undo().undoName).toBeNull();
  });

  test("moving one slice's edge never moves its neighbours", () => {
    const take = newTake({
      id: "t1",
      name: "take",
      sha,
      rate: 44100,
      channels: 1,
      frames: 300,
      origin: "imported",
      slices: [newSlice({ id: "a", start: 0, end: 100 }), newSlice({ id: "b", start: 100, end: 200 })],
    });
    const doc = addTake(take).apply(newInstrument("test", "Test"));
    const moved = changeSlices("t1", new Set(["a"]), "Move", (s) => ({ ...s, end: 1150.4 })).apply(doc);
    expect(moved.takes[0]?.slices.map((s) => [s.start, s.end])).toEqual([
      [0, 300],
      [100, 200],
    ]);
  });

  test("a new cut takes the old one's place in every zone; a shortened zone keeps its end where it can", () => {
    const doc = filled();
    const half = changeZones(new Set(["z2"]), "Trim", (z) => ({ ...z, end: 600 })).apply(doc);
    const fresh = newSample({ sha: "cd".repeat(32), name: "again", frames: 800 });
    const next = replaceSamples(new Map([[sha, fresh]])).apply(half);
    expect(listZones(next).map((z) => [z.sample, z.end])).toEqual([
      [fresh.sha, 800],
      [fresh.sha, 600],
    ]);
    expect(next.samples).toEqual([fresh]);
  });

  test("a document of version 2 keeps its takes, their threshold and slices, and is checked", () => {
    const { shots, naming, ...doc } = newInstrument("old", "Old");
    const slice = { id: "s1", start: 5, end: 50, onset: 6, pitch: 60, confidence: 1, peak: -6, loudness: -9 };
    const take = { id: "t", name: "t", sha, rate: 44100, channels: 1, frames: 100, origin: "recorded", floor: -60 };
    const raw = {
      ...doc,
      version: 2,
      takes: [{ ...take, threshold: 24, slices: [{ ...slice, keep: true, note: 61, cents: null, edited: true }] }],
      samples: [{ ...sample, strength: undefined, repeat: undefined, use: undefined }],
    };
    const checked = opened(JSON.parse(JSON.stringify(raw)));
    expect(checked.instrument.takes[0]).toMatchObject({ search: { by: "level", threshold: 24 }, treatments: [] });
    expect(checked.instrument.takes[0]?.slices[0]).toEqual(newSlice({ ...slice, note: 61, edited: true }));
    expect(checked.instrument.samples[0]).toEqual(sample);
    expect(checked.instrument).toMatchObject({ shots, naming });
  });

  test("zones and samples of version 7 know nothing more than they did, and nothing of them is lost", () => {
    const made = newZone({ id: "z", sample: SHA_OLD, end: 10 });
    const { kept: _, ...zone } = made;
    const sample = newSample({ sha: SHA_OLD, name: "old", frames: 10 });
    const file = { path: "a/b", root: 60.5, loop: { start: 1, end: 9 } };
    const now = placeZones("main", "main", [made], true).apply(newInstrument("old", "Old"));
    const { kept: __, ...whole } = now;
    const layers = now.layers.map((l) => ({ ...l, groups: l.groups.map((g) => ({ ...g, zones: [zone] })) }));
    const raw = JSON.parse(JSON.stringify({ ...whole, version: 7, layers, samples: [{ ...sample, file }] }));
    const { instrument, faults } = migrate(raw);
    expect(faults).toEqual([]);
    expect(instrument?.kept).toBe("");
    expect(instrument?.layers[0]?.groups[0]?.zones[0]).toEqual(made);
    expect(instrument?.samples[0]?.file).toEqual({
      ...file,
      loop: { ...file.loop, mode: "forward" },
      further: [],
      range: null,
      text: "",
    });
  });

  test("a take of version 3 has no gaps that anybody knew of", () => {
    const { gaps, ...take } = newTake({
      id: "t",
      name: "t",
      sha,
      rate: 44100,
      channels: 1,
      frames: 9,
      origin: "recorded",
    });
    const checked = opened({ ...newInstrument("old", "Old"), version: 3, takes: [take] });
    expect(checked.instrument).toMatchObject({ version: DOCUMENT_VERSION, takes: [{ ...take, gaps }] });
  });

  test("treatments are checked like any unit", () => {
    const take = newTake({ id: "t", name: "t", sha, rate: 44100, channels: 1, frames: 100, origin: "recorded" });
    const withUnit = (unit: unknown) =>
      checkInstrument({ ...newInstrument("x", "X"), takes: [{ ...take, treatments: [unit] }] }).ok;
    expect(withUnit(newUnit("denoise", "d"))).toBe(true);
    expect(withUnit(newUnit("filter", "f"))).toBe(false);
    expect(withUnit({ ...newUnit("gain", "g"), params: { level: 999 } })).toBe(false);
  });

  test("cutting a slice in two and joining the halves loses nothing; neighbours stay", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 99 }),
        fc.integer({ min: 2, max: 200 }),
        fc.integer(),
        (start, length, at) => {
          const end = start + length;
          const slices = [newSlice({ id: "a", start, end, note: 61 }), newSlice({ id: "b", start: end, end: 400 })];
          const take = newTake({
            id: "t",
            name: "t",
            sha,
            rate: 44100,
            channels: 1,
            frames: 500,
            origin: "demo",
            slices,
          });
          const doc = addTake(take).apply(newInstrument("test", "Test"));
          const cut = start + (Math.abs(at) % length);
          const parts = splitSlice("t", "a", cut).apply(doc).takes[0]?.slices ?? [];
          expect(parts.at(-1)).toEqual(slices[1]);
          if (cut === start) {
            expect(parts).toEqual(slices);
            return;
          }
          expect(parts.slice(0, 2).map((s) => [s.start, s.end])).toEqual([
            [start, cut],
            [cut, end],
          ]);
          const ids = new Set(parts.slice(0, 2).map((s) => s.id));
          expect(ids.size).toBe(2);
          const joined = mergeIntoOne("t", ids).apply(splitSlice("t", "a", cut).apply(doc)).takes[0]?.slices;
          expect(joined).toEqual([{ ...slices[0], edited: true }, slices[1]]);
        },
      ),
    );
    const gone = removeSlices("t", new Set(["a"]));
    expect(gone.name).toBe("Remove 1 slice");
  });

  test("a removed macro takes its routes and bindings with it", () => {
    const doc = together("", [
      addRoute({ id: "r1", source: "macros/macro1", target: "layers/main/source/fine", amount: 20, on: true }),
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
      removeUnit("macros", "macro1"),
    ]).apply(newInstrument("test", "Test"));
    expect(doc.routes).toEqual([]);
    expect(doc.face.items[0]?.moves).toEqual([]);
  });

  test("no two amounts of routes have one name in the list of targets", () => {
    const target = "layers/main/source/fine";
    const doc = together(
      "",
      ["velocity", "wheel", "wheel", "macros/macro1"].map((source, i) =>
        addRoute({ id: `r${i}`, source, target, amount: 20, on: true }),
      ),
    ).apply(newInstrument("test", "Test"));
    const labels = listParams(doc).flatMap((p) => (p.address.startsWith("routes/") ? [p.label] : []));
    expect(labels[0]).toMatch(/^Depth of Velocity to /);
    expect(labels[2]).toMatch(/^Depth of Mod wheel \(2\) to /);
    expect(new Set(labels).size).toBe(4);
    expect(findParam(doc, "routes/r2/amount")?.label).toBe(labels[2]);
  });

  test("what an edit leaves as it was stays the very same object: lists of zones, parameters, sources", () => {
    const doc = newInstrument("test", "Test");
    const next = setParam(doc, "layers/main/strip/pan", 0.5).apply(doc);
    expect(listZones(next)).toBe(listZones(doc));
    expect(listSources(next)).toBe(listSources(doc));
    expect(findParam(next, "layers/main/strip/pan")?.value).toBe(0.5);
    expect(findParam(next, "layers/main/amp/attack")).toBe(findParam(doc, "layers/main/amp/attack"));
    expect(findUnit(next, "layers/main/amp")).toBe(doc.layers[0]?.amp);
    const named = changeLayer("main", { name: "Other" }).apply(next);
    expect(findParam(named, "play/level")).toBe(findParam(doc, "play/level"));
  });

  test("nothing on the face can be moved off its page", () => {
    const doc = addFaceItem({ id: "d1", kind: "dial", x: 1, y: 1, width: 60, height: 60, text: "" }).apply(
      newInstrument("test", "Test"),
    );
    const item = changeFaceItem("d1", "Move", { x: 9999, y: -5 }).apply(doc).face.items[0];
    expect(item).toMatchObject({ x: 580, y: 0 });
  });

  test("zones are settled whatever they are given", () => {
    fc.assert(
      fc.property(
        fc.integer(),
        fc.integer(),
        fc.integer(),
        fc.integer(),
        fc.integer(),
        fc.nat(5000),
        (a, b, c, d, e, fade) => {
          const settled = settleZone(
            { ...zone("z"), keyLow: a, keyHigh: b, start: c, end: d, loop: newLoop({ start: e, end: c, fade }) },
            1000,
          );
          expect(settled.keyLow).toBeLessThanOrEqual(settled.keyHigh);
          expect(settled.start).toBeLessThan(settled.end);
          const { loop } = settled;
          if (!loop) return;
          expect(loop.start).toBeGreaterThanOrEqual(settled.start);
          expect(loop.end).toBeLessThanOrEqual(settled.end);
          expect(loop.end - loop.start).toBeGreaterThanOrEqual(2);
          expect(loop.fade).toBeLessThanOrEqual(Math.min(loop.start - settled.start, loop.end - loop.start));
        },
      ),
    );
  });
});

describe("documents from outside", () => {
  test("what was written is read back the same", () => {
    const doc = filled();
    expect(migrate(JSON.parse(JSON.stringify(doc)))).toEqual({ instrument: doc, faults: [] });
    expect(checkInstrument(JSON.parse(JSON.stringify(doc)))).toMatchObject({ ok: true });
    expect(listZones(doc)).toHaveLength(2);
  });

  test.each([
    ["a newer version", { version: 99 }, "newer"],
    ["no version", { id: "x" }, "which version"],
    ["a zone without its sample", { samples: [] }, "isn't in the list"],
    [
      "a root beyond the keyboard",
      {
        layers: filled().layers.map((l) => ({
          ...l,
          groups: [{ ...newGroup("g", ""), zones: [{ ...zone("z"), root: 200 }] }],
        })),
      },
      "root",
    ],
    [
      "a filter of an unknown mode",
      {
        layers: filled().layers.map((l) => ({
          ...l,
          stages: [{ id: "f", kind: "filter", name: "", params: { type: "odd" } }],
        })),
      },
      "type",
    ],
  ])("%s is told", (_, change, words) => {
    const raw = "version" in change || "id" in change ? change : { ...filled(), ...change };
    const { faults } = migrate(raw);
    expect(faults.map(faultText).join(" ")).toContain(words);
    expect(checkInstrument(raw).ok).toBe(false);
  });

  test("any JSON at all is either checked or refused, never thrown over", () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const { instrument } = migrate({ ...filled(), layers: value });
        // What can be made of it is a document like any other.
        expect(instrument && checkInstrument(instrument)).toEqual({ ok: true, instrument });
        expect(migrate(value).instrument).toBeNull();
      }),
      { seed: 4 },
    );
  });

  test("ids are new, short and begin with a letter", () => {
    const random = seededRandom(1);
    const taken = new Set<string>();
    for (let i = 0; i < 2000; i++) {
      const id = newId(random, taken);
      expect(taken.has(id)).toBe(false);
      expect(id).toMatch(/^[a-z][a-z0-9]{5}$/);
      taken.add(id);
    }
  });
});
