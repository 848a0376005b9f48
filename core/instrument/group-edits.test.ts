import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { findParam } from "./address";
import { deadReferences } from "./dead-references";
import { changeGroup, duplicateGroup, moveGroup, moveZones, partIntoGroups, removeGroup } from "./group-edits";
import type { Instrument } from "./instrument";
import { moveLayer } from "./layer-edits";
import { setParam } from "./param-edits";
import { made } from "./test-groups";
import { listZones } from "./zone-edits";

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
