import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { findParam } from "./address";
import { deadReferences } from "./dead-references";
import { newGroup, newInstrument, newLayer, newRoute, newUnit, newZone } from "./defaults";
import { moving } from "./face-defaults";
import { addFaceItem } from "./face-edits";
import {
  addGroup,
  changeGroup,
  duplicateGroup,
  moveGroup,
  moveZones,
  partIntoGroups,
  removeGroup,
} from "./group-edits";
import { inheritedOf } from "./inherited";
import type { Instrument } from "./instrument";
import { addLayer, changeLayer, chosenLayer, moveLayer, removeLayer } from "./layer-edits";
import { migrate } from "./migrate";
import { addRoute, addUnit, setParam } from "./param-edits";
import { listZones, placeZones } from "./zone-edits";

const zone = (id: string, key: number) => newZone({ id, sample: null, end: 0, keyLow: key, keyHigh: key, root: key });

/** Two layers; the first has the groups main and dampers, the second main. A route moves the dampers' level, a dial their pan. */
function made(): Instrument {
  const start = newInstrument("groups", "Groups");
  const edits = [
    addLayer(newLayer("body", "Body")),
    addGroup("main", newGroup("dampers", "Dampers")),
    placeZones("main", "main", [zone("a", 60), zone("b", 61)], false),
    placeZones("main", "dampers", [zone("c", 62), zone("d", 62)], false),
    placeZones("body", "main", [zone("e", 60)], false),
    addRoute(newRoute({ id: "r", source: "wheel", target: "layers/main/groups/dampers/level", amount: 6 })),
    addFaceItem({
      ...{ id: "dial", kind: "dial", x: 0, y: 0, width: 64, height: 64, text: "Dampers" },
      moves: moving("layers/main/groups/dampers/pan"),
    }),
  ];
  return edits.reduce((doc, edit) => edit.apply(doc), start);
}

const groupsOf = (doc: Instrument, layer: string) =>
  doc.layers.find((l) => l.id === layer)?.groups.map((g) => `${g.id}: ${g.zones.map((z) => z.id).join(" ")}`);

describe("groups", () => {
  test("one moves to another place, and what names it stays", () => {
    const doc = moveGroup("main", "dampers", "main", 0).apply(made());
    expect(groupsOf(doc, "main")).toEqual(["dampers: c d", "main: a b"]);
    expect(deadReferences(doc)).toEqual([]);
    expect(doc.routes).toHaveLength(1);
  });

  test("one moves to another layer; its route and its dial follow, also where its id was taken there", () => {
    const moved = moveGroup("main", "dampers", "body", 1).apply(made());
    expect(groupsOf(moved, "main")).toEqual(["main: a b"]);
    expect(groupsOf(moved, "body")).toEqual(["main: e", "dampers: c d"]);
    expect(moved.routes[0]?.target).toBe("layers/body/groups/dampers/level");
    expect(moved.face.items[0]?.moves[0]?.address).toBe("layers/body/groups/dampers/pan");
    const last = moveGroup("main", "main", "body", 0).apply(moved);
    expect(groupsOf(last, "main")).toEqual(["main: "]);
    expect(groupsOf(last, "body")).toEqual(["main-2: a b", "main: e", "dampers: c d"]);
    expect(deadReferences(last)).toEqual([]);
  });

  test("one that goes takes its zones and what moved it; the last leaves an empty one", () => {
    const doc = removeGroup("main", "dampers").apply(made());
    expect(listZones(doc).map((z) => z.id)).toEqual(["a", "b", "e"]);
    expect(doc.routes).toEqual([]);
    expect(doc.face.items[0]?.moves).toEqual([]);
    expect(groupsOf(removeGroup("body", "main").apply(doc), "body")).toEqual(["main: "]);
  });

  test("a copy has zones and routes of its own", () => {
    const doc = duplicateGroup("main", "dampers", "Dampers 2").apply(made());
    expect(groupsOf(doc, "main")).toEqual(["main: a b", "dampers: c d", "dampers-2: c-2 d-2"]);
    expect(doc.routes.map((r) => r.target)).toEqual([
      "layers/main/groups/dampers/level",
      "layers/main/groups/dampers-2/level",
    ]);
  });

  test("zones are parted into a group for each sound, with the settings of the one that they leave", () => {
    const loud = setParam(made(), "layers/main/groups/dampers/level", -3).apply(made());
    const doc = partIntoGroups(new Set(["a", "c", "d"]), (z) => `Key ${z.root}`).apply(loud);
    expect(groupsOf(doc, "main")).toEqual(["main: b", "main-2: a", "dampers: c d"]);
    expect(doc.layers[0]?.groups.map((g) => g.name)).toEqual(["Main", "Key 60", "Key 62"]);
    expect(findParam(doc, "layers/main/groups/dampers/level")?.value).toBe(-3);
    expect(deadReferences(doc)).toEqual([]);
  });

  test("whatever is moved and parted: no zone is lost or doubled, nothing dead is named, every layer keeps a group", () => {
    const at = (list: readonly { readonly id: string }[], n: number) => list[n % list.length]?.id ?? "";
    const step = fc.tuple(fc.nat(5), fc.nat(9), fc.nat(9), fc.nat(9));
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
        let doc = made();
        for (const [what, i, j, n] of steps) {
          const layer = doc.layers[i % doc.layers.length];
          const group = at(layer?.groups ?? [], j);
          const from = layer?.id ?? "";
          const to = at(doc.layers, n);
          const edit = [
            moveGroup(from, group, to, n % 3),
            partIntoGroups(new Set(["a", "c", "e"].slice(n % 3)), (z) => z.id),
            moveZones(new Set(["b", "d"]), from, group),
            moveLayer(from, n % 2),
            duplicateGroup(from, group, "Again"),
            changeGroup(from, group, { mark: "moss" }),
          ][what];
          doc = edit?.apply(doc) ?? doc;
          const ids = listZones(doc).map((z) => z.id);
          expect(new Set(ids).size).toBe(ids.length);
          expect(["a", "b", "c", "d", "e"].every((id) => ids.includes(id))).toBe(true);
          expect(deadReferences(doc)).toEqual([]);
          expect(doc.layers.every((l) => l.groups.length > 0)).toBe(true);
        }
      }),
      { numRuns: 100 },
    );
  });
});

describe("layers of a set", () => {
  const withSet = () => {
    const set = addUnit("sets", newUnit("set", "blend", "Blend")).apply(made());
    const both = changeLayer("body", { set: "blend" }).apply(changeLayer("main", { set: "blend" }).apply(set));
    return setParam(both, "sets/blend/chosen", 2).apply(both);
  };
  const chosen = (doc: Instrument) => doc.sets[0] && chosenLayer(doc, doc.sets[0])?.id;

  test("the chosen one stays it, wherever it moves and whoever leaves the set", () => {
    expect(chosen(withSet())).toBe("body");
    expect(chosen(moveLayer("body", 0).apply(withSet()))).toBe("body");
    expect(chosen(changeLayer("main", { set: null }).apply(withSet()))).toBe("body");
    expect(chosen(removeLayer("main").apply(withSet()))).toBe("body");
  });

  test("when the chosen one goes another is: never none", () => {
    expect(chosen(changeLayer("body", { set: null }).apply(withSet()))).toBe("main");
    expect(chosen(removeLayer("body").apply(withSet()))).toBe("main");
  });
});

describe("what a zone inherits", () => {
  test("level, pan and tuning are the sum of what zone, group, microphone, layer and instrument say", () => {
    const start = addUnit("mics", newUnit("mic", "near", "Near")).apply(made());
    const c = { ...zone("far", 40), gain: 2, pan: 0.5, tune: -10, mic: "near" };
    const placed = placeZones("main", "dampers", [c], false).apply(start);
    const set = (doc: Instrument, address: string, value: number) => setParam(doc, address, value).apply(doc);
    const doc = [
      ["layers/main/groups/dampers/level", -3],
      ["layers/main/groups/dampers/pan", 0.4],
      ["layers/main/groups/dampers/tune", 5],
      ["mics/near/level", -1],
      ["mics/near/pan", 0.3],
      ["layers/main/source/transpose", 1],
      ["layers/main/source/fine", 20],
      ["play/level", -2],
    ].reduce((d, [address, value]) => set(d, String(address), Number(value)), placed);
    expect(inheritedOf(doc, "nobody")).toBeNull();
    const inherited = inheritedOf(doc, "far");
    expect(inherited?.level.sum).toBeCloseTo(2 - 3 - 1 - 6 - 2);
    expect(inherited?.pan.sum).toBe(1);
    expect(inherited?.tune.sum).toBeCloseTo(-10 + 5 + 120);
    expect(inherited?.level.parts.map((p) => p.from)).toEqual(["zone", "group", "microphone", "layer", "instrument"]);
    for (const { parts } of Object.values(inherited ?? {}))
      for (const { addresses } of parts) for (const a of addresses) expect(findParam(doc, a)).not.toBeNull();
  });
});

test("a document of version 8 opens: layers and groups have no mark and no note", () => {
  const { layers, face, ...rest } = made();
  const bind = face.items[0]?.moves[0]?.address;
  const items = face.items.map((item) => ({ ...item, bind }));
  const bare = layers.map(({ mark: _m, note: _n, ...layer }) => ({
    ...layer,
    groups: layer.groups.map(({ mark: _gm, note: _gn, ...group }) => group),
  }));
  const { instrument, faults } = migrate({ ...rest, face: { ...face, items }, version: 8, layers: bare });
  expect(faults).toEqual([]);
  expect(instrument).toEqual(made());
});
