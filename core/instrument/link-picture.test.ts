import { describe, expect, test } from "@jest/globals";
import { ARRANGEMENTS, addArrangement } from "./arrangements";
import { newInstrument, newLayer, newUnit } from "./defaults";
import type { Instrument } from "./instrument";
import { addLayer, setSource } from "./layer-edits";
import { cutLink, feedInto, leadInto, linkEntries, linkPicture, wouldRing } from "./link-picture";
import { liveLinks } from "./links";
import { addUnit } from "./param-edits";

const place = (doc: Instrument, layer: string) => linkPicture(doc.layers).places.find((p) => p.layer === layer);

/** Oscillators by the names of their layers, each led into those that are named behind it. */
function made(links: Readonly<Record<string, readonly string[]>>): Instrument {
  let doc = newInstrument("i", "I");
  for (const id of Object.keys(links)) doc = setSource(id, "oscillator").apply(addLayer(newLayer(id, id)).apply(doc));
  for (const [from, into] of Object.entries(links))
    for (const to of into) doc = feedInto(doc, from, to, `${from}-${to}`).apply(doc);
  return { ...doc, layers: doc.layers.slice(1) };
}

describe("the picture of how layers are led into each other", () => {
  test("who feeds stands to the left of who hears, as far as the longest way goes; nothing stands on anything else", () => {
    const doc = made({ a: ["c"], b: ["c", "d"], c: ["d"], d: [], e: [] });
    expect(place(doc, "a")).toMatchObject({ column: 0, row: 0 });
    expect(place(doc, "b")).toMatchObject({ column: 0, row: 1 });
    expect(place(doc, "c")).toMatchObject({ column: 1, row: 0 });
    expect(place(doc, "d")).toMatchObject({ column: 2, row: 0 });
    expect(place(doc, "e")).toMatchObject({ column: 0, row: 2 });
    const { places, columns, rows, links } = linkPicture(doc.layers);
    expect(new Set(places.map((p) => `${p.column} ${p.row}`)).size).toBe(5);
    expect([columns, rows, links.length]).toEqual([3, 3, 4]);
    expect(linkPicture([])).toEqual({ places: [], links: [], columns: 0, rows: 0 });
  });

  test("every ready arrangement leads from left to right", () => {
    for (const arrangement of ARRANGEMENTS) {
      const ids = arrangement.members.map((_, n) => `m${n}`);
      const doc = addArrangement(arrangement, ids, ids).apply(newInstrument("i", "I"));
      for (const { from, to } of linkPicture(doc.layers).links)
        expect(place(doc, from)?.column).toBeLessThan(place(doc, to)?.column ?? 0);
    }
  });

  test("a layer that listens to the sum of one which it feeds is no ring, and stands where its voices put it", () => {
    const doc = made({ a: ["b"], b: [] });
    const listening = addUnit("layers/a/inserts", { ...newUnit("compressor", "x"), from: "b" }).apply(doc);
    expect(liveLinks(listening)).toHaveLength(2);
    expect(place(listening, "b")?.column).toBe(1);
  });
});

describe("leading layers into each other", () => {
  test("into an oscillator's phase, before all stages, and no longer", () => {
    const doc = made({ a: [], b: [] });
    expect(linkEntries(doc.layers[1] as Instrument["layers"][number])).toEqual([
      { address: "layers/b/source", name: "Oscillator", source: true, taken: false },
    ]);
    const led = leadInto(doc, "a", "layers/b/source").apply(doc);
    expect(liveLinks(led)).toEqual([{ address: "layers/b/source", from: "a", to: "b", as: "notes" }]);
    const fed = feedInto(led, "a", "b", "f").apply(led);
    expect(fed.layers[1]?.stages[0]).toMatchObject({ id: "f", kind: "feed", from: "a" });
    expect(linkEntries(fed.layers[1] as Instrument["layers"][number]).map((e) => e.taken)).toEqual([true, true]);
    const cut = cutLink(fed, "layers/b/stages/f").apply(fed);
    expect(cut.layers).toEqual(led.layers);
    expect(cutLink(led, "layers/b/source").apply(led).layers).toEqual(doc.layers);
  });

  test("what would close a ring is known before", () => {
    const doc = made({ a: ["b"], b: ["c"], c: [], d: [] });
    expect(wouldRing(doc, "c", "a")).toBe(true);
    expect(wouldRing(doc, "a", "a")).toBe(true);
    expect(wouldRing(doc, "a", "c")).toBe(false);
    expect(wouldRing(doc, "d", "a")).toBe(false);
  });
});
