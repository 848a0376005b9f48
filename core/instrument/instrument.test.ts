import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { seededRandom } from "../audio";
import { changeRules, together } from "./about-edits";
import { findParam, listParams } from "./address";
import { newGroup, newId, newInstrument, newLoop, newZone } from "./defaults";
import type { Edit } from "./edit";
import { addFaceItem, changeFaceItem } from "./face-edits";
import { History } from "./history";
import type { Instrument } from "./instrument";
import { migrate } from "./migrate";
import { addRoute, removeMacro, setParam } from "./param-edits";
import { addTake, changeSlices } from "./take-edits";
import { addSamples, changeZones, listZones, placeZones, removeZones, settleZone } from "./zone-edits";

const sha = "ab".repeat(32);
const zone = (id: string) => newZone({ id, sample: sha, end: 1000 });
const sample = {
  sha,
  name: "one",
  frames: 1000,
  rate: 44100,
  channels: 1,
  pitch: 60.1,
  confidence: 0.9,
  peak: -6,
  loudness: -12,
  from: null,
};

const filled = (): Instrument =>
  together("", [addSamples([sample]), placeZones("main", "main", [zone("z1"), zone("z2")], false)]).apply(
    newInstrument("test", "Test"),
  );

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
    expect(() => setParam(doc, "layers/main/stages/filter/mode", "sideways")).toThrow(RangeError);
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
      () => removeMacro("macro1"),
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
          bind: "macros/macro1/value",
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
    const slice = {
      onset: 0,
      pitch: null,
      confidence: 0,
      peak: -6,
      loudness: -12,
      keep: true,
      note: null,
      cents: null,
      edited: false,
    };
    const take = {
      id: "t1",
      name: "take",
      sha,
      rate: 44100,
      channels: 1,
      frames: 300,
      origin: "imported" as const,
      threshold: 18,
      floor: null,
      slices: [
        { ...slice, id: "a", start: 0, end: 100 },
        { ...slice, id: "b", start: 100, end: 200 },
      ],
    };
    const doc = addTake(take).apply(newInstrument("test", "Test"));
    const moved = changeSlices("t1", new Set(["a"]), "Move", (s) => ({ ...s, end: 1150.4 })).apply(doc);
    expect(moved.takes[0]?.slices.map((s) => [s.start, s.end])).toEqual([
      [0, 300],
      [100, 200],
    ]);
  });

  test("a removed macro takes its routes and bindings with it", () => {
    const doc = together("", [
      addRoute({ id: "r1", source: "macros/macro1", target: "layers/main/source/fine", amount: 20, on: true }),
      addFaceItem({ id: "d1", kind: "dial", x: 1, y: 1, width: 60, height: 60, text: "", bind: "macros/macro1/value" }),
      removeMacro("macro1"),
    ]).apply(newInstrument("test", "Test"));
    expect(doc.routes).toEqual([]);
    expect(doc.face.items[0]?.bind).toBeNull();
  });

  test("nothing on the face can be moved off its page", () => {
    const doc = addFaceItem({ id: "d1", kind: "dial", x: 1, y: 1, width: 60, height: 60, text: "", bind: null }).apply(
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
    const checked = migrate(JSON.parse(JSON.stringify(doc)));
    expect(checked).toEqual({ ok: true, instrument: doc });
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
          stages: [{ id: "f", kind: "filter", name: "", params: { mode: "odd" } }],
        })),
      },
      "mode",
    ],
  ])("%s is told", (_, change, words) => {
    const raw = "version" in change || "id" in change ? change : { ...filled(), ...change };
    const checked = migrate(raw);
    expect(checked.ok).toBe(false);
    if (!checked.ok) expect(checked.problems.join(" ")).toContain(words);
  });

  test("any JSON at all is either checked or refused, never thrown over", () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        expect(typeof migrate({ ...filled(), layers: value }).ok).toBe("boolean");
        expect(migrate(value).ok).toBe(false);
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
