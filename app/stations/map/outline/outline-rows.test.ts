import { describe, expect, test } from "@jest/globals";
import {
  addGroup,
  addLayer,
  type Instrument,
  newGroup,
  newInstrument,
  newLayer,
  newZone,
  placeZones,
} from "../../../../core/instrument";
import { CHOSEN_ZONES, dropOn, outlineRows } from "./outline-rows";

function made(): Instrument {
  const zone = newZone({ id: "z", sample: null, end: 0 });
  return [
    addLayer(newLayer("body", "Body")),
    addGroup("main", newGroup("b", "B")),
    addGroup("main", newGroup("c", "C")),
    addGroup("body", newGroup("d", "D")),
    placeZones("main", "main", [zone], false),
  ].reduce((doc, edit) => edit.apply(doc), newInstrument("outline", "Outline"));
}

/** The layers with the ids of their groups after something was dropped. */
function after(from: string, over: string): string[] | undefined {
  const doc = made();
  const edit = dropOn(outlineRows(doc.layers), from, over, new Set(["z"]));
  return edit?.apply(doc).layers.map((l) => `${l.id}: ${l.groups.map((g) => g.id).join(" ")}`);
}

describe("the outline", () => {
  test("layers with their groups below them, and how many zones are in each", () => {
    expect(outlineRows(made().layers).map((r) => `${r.address} ${r.zones}`)).toEqual([
      "layers/main 1",
      "layers/main/groups/main 1",
      "layers/main/groups/b 0",
      "layers/main/groups/c 0",
      "layers/body 0",
      "layers/body/groups/main 0",
      "layers/body/groups/d 0",
    ]);
  });

  test.each([
    [
      "a group among its own, down",
      "layers/main/groups/main",
      "layers/main/groups/b",
      ["main: b main c", "body: main d"],
    ],
    [
      "a group among its own, up",
      "layers/main/groups/c",
      "layers/main/groups/main",
      ["main: c main b", "body: main d"],
    ],
    [
      "down into another layer, behind whom it passed",
      "layers/main/groups/b",
      "layers/body/groups/main",
      ["main: main c", "body: main b d"],
    ],
    ["up into another layer", "layers/body/groups/d", "layers/main/groups/b", ["main: main d b c", "body: main"]],
    ["on a layer: to its top", "layers/main/groups/c", "layers/body", ["main: main b", "body: c main d"]],
    ["a layer on a group of another", "layers/body", "layers/main/groups/b", ["body: main d", "main: main b c"]],
  ])("%s", (_what, from, over, layers) => {
    expect(after(from, over)).toEqual(layers);
  });

  test("zones go into a group, on a layer into its first; what isn't there or is itself does nothing", () => {
    const doc = made();
    const rows = outlineRows(doc.layers);
    const holder = (over: string) => {
      const edit = dropOn(rows, CHOSEN_ZONES, over, new Set(["z"]));
      const groups = edit?.apply(doc).layers.flatMap((l) => l.groups.map((g) => ({ at: `${l.id}/${g.id}`, g })));
      return groups?.find(({ g }) => g.zones.length > 0)?.at;
    };
    expect(holder("layers/main/groups/c")).toBe("main/c");
    expect(holder("layers/body")).toBe("body/main");
    expect(dropOn(rows, CHOSEN_ZONES, "layers/body", new Set())).toBeNull();
    expect(dropOn(rows, "layers/main", "layers/main", new Set())).toBeNull();
    expect(dropOn(rows, "layers/main", "layers/main/groups/b", new Set())).toBeNull();
    expect(dropOn(rows, "layers/gone", "layers/main", new Set())).toBeNull();
  });
});
