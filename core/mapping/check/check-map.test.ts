import { describe, expect, test } from "@jest/globals";
import type { SampleFacts } from "../../analysis";
import {
  addSamples,
  changeZones,
  type Edit,
  type Instrument,
  listZones,
  newInstrument,
  newLoop,
  newSample,
  newZone,
  placeZones,
  type Sample,
  setParam,
  together,
  type Zone,
} from "../../instrument";
import { Reads } from "../../params/test-counted";
import { checkMap } from "./check-map";
import type { FindingKind } from "./finding";
import { repairs } from "./repair";

const ROOTS = [48, 51, 54, 57, 60];
const idOf = (root: number, layer: number, repeat: number): string => `z${root}-${layer}-${repeat}`;
const shaOf = (root: number, layer: number, repeat: number): string =>
  (root * 100 + layer * 10 + repeat).toString(16).padStart(64, "0");

/** Five roots, two strengths, three repeats: nothing to complain of. */
function clean(): Instrument {
  const samples: Sample[] = [];
  const zones: Zone[] = [];
  for (const root of ROOTS)
    for (const layer of [0, 1])
      for (const repeat of [1, 2, 3]) {
        const sha = shaOf(root, layer, repeat);
        samples.push(
          newSample({
            sha,
            name: sha.slice(-4),
            frames: 44100,
            pitch: root + 0.1,
            confidence: 0.9,
            peak: -6,
            loudness: -30 + layer * 12 + repeat * 0.3,
          }),
        );
        zones.push(
          newZone({
            id: idOf(root, layer, repeat),
            sample: sha,
            end: 44100,
            root,
            tune: -10,
            repeat,
            keyLow: root - 1,
            keyHigh: root + 1,
            velLow: layer === 0 ? 1 : 65,
            velHigh: layer === 0 ? 64 : 127,
          }),
        );
      }
  return together("", [addSamples(samples), placeZones("main", "main", zones, true)]).apply(
    newInstrument("i", "Tubes"),
  );
}

const zone = (change: (z: Zone) => Partial<Zone>, ...ids: string[]): Edit =>
  changeZones(new Set(ids), "", (z) => ({ ...z, ...change(z) }));
const all = listZones(clean()).map((z) => z.id);
const sample = (change: Partial<Sample>, sha: string): Edit => ({
  name: "",
  apply: (doc) => ({ ...doc, samples: doc.samples.map((s) => (s.sha === sha ? { ...s, ...change } : s)) }),
});
const note = (root: number): string[] => [1, 2, 3].flatMap((r) => [idOf(root, 0, r), idOf(root, 1, r)]);
const FACTS = new Map<string, SampleFacts>([[shaOf(51, 1, 2), { head: 0.2, offset: 0.05 }]]);

const BROKEN: readonly (readonly [FindingKind, string, Edit, boolean])[] = [
  ["silent", "A#3", zone(() => ({ keyHigh: 57 }), ...note(57)), true],
  ["velocity-gap", "60–64", zone(() => ({ velHigh: 59 }), ...[1, 2, 3].map((r) => idOf(54, 0, r))), true],
  ["velocity-gap", "G3 · 55", zone(() => ({ keyHigh: 54 }), ...[1, 2, 3].map((r) => idOf(54, 1, r))), true],
  ["together", "sound together", zone(() => ({ repeat: 2 }), idOf(54, 0, 1)), true],
  ["tuning", "D#3", zone(() => ({ root: 50, tune: 0 }), ...note(51)), true],
  ["tuning", "off", zone(() => ({ tune: 25 }), idOf(51, 0, 1)), true],
  ["level", "louder", zone(() => ({ gain: 9 }), ...note(54)), true],
  ["softer", "softer", zone((z) => ({ gain: z.velLow === 1 ? 8 : -8 }), ...note(54)), true],
  ["repeat-level", "softer", zone(() => ({ gain: -8 }), idOf(57, 1, 2)), true],
  ["repeat-tuning", "siblings", sample({ pitch: 57.5 }, shaOf(57, 1, 2)), true],
  ["no-loop", "no loop", zone(() => ({ loop: newLoop({ start: 100, end: 9000 }) }), ...all.slice(0, 29)), false],
  ["clipped", "clip", sample({ peak: 0 }, shaOf(48, 1, 1)), false],
  ["mixed-ends", "is released", zone(() => ({ oneShot: true }), idOf(60, 0, 1)), true],
  [
    "switch-sounds",
    "switches",
    {
      name: "",
      apply: (doc) =>
        together("", [
          setParam(doc, "layers/main/groups/main/keyswitch", "latched"),
          setParam(doc, "layers/main/groups/main/switchKey", 50),
        ]).apply(doc),
    },
    false,
  ],
  [
    "never",
    "0 %",
    { name: "", apply: (doc) => setParam(doc, "layers/main/groups/main/probability", 0).apply(doc) },
    false,
  ],
];

describe("the map is checked", () => {
  test("a clean one has nothing to complain of, nor has an empty one", () => {
    expect(checkMap(clean())).toEqual([]);
    expect(checkMap(newInstrument("i", "Empty"))).toEqual([]);
  });

  test("a sample that isn't there is told once with all its zones, and nothing is made up of what it would measure", () => {
    const doc = clean();
    const [lost] = doc.samples;
    if (!lost) throw new Error("there are samples");
    const blank = { ...lost, loudness: -120, pitch: null };
    const found = checkMap({ ...doc, samples: [blank, ...doc.samples.slice(1)] }, new Map(), new Set([lost.sha]));
    expect(found.map((f) => f.kind)).toEqual(["missing"]);
    const zones = doc.layers.flatMap((l) => l.groups.flatMap((g) => g.zones.filter((z) => z.sample === lost.sha)));
    expect(found[0]?.zones).toEqual(zones.map((z) => z.id));
  });

  test.each(BROKEN)("%s (%s)", (kind, text, edit, mended) => {
    const doc = edit.apply(clean());
    const found = checkMap(doc).filter((f) => f.kind === kind);
    expect(found.length).toBeGreaterThan(0);
    expect(found.some((f) => f.text.includes(text))).toBe(true);
    for (const { zones, keys, way, repair } of found) {
      expect(zones.every((id) => all.includes(id))).toBe(true);
      expect(keys[0]).toBeLessThanOrEqual(keys[1]);
      expect(way !== "").toBe(repair !== null);
    }
    const repair = repairs(found);
    expect(repair !== null).toBe(mended || kind === "switch-sounds");
    if (repair && mended) expect(checkMap(repair.apply(doc)).filter((f) => f.kind === kind)).toEqual([]);
  });

  test("what only the audio tells: silence before the sound, which is skipped, and a wave off the middle line", () => {
    const found = checkMap(clean(), FACTS);
    expect(found.map((f) => f.kind)).toEqual(["silence-first", "offset"]);
    const after = repairs(found)?.apply(clean());
    expect(after && checkMap(after, FACTS).map((f) => f.kind)).toEqual(["offset"]);
  });

  test("microphones, other groups and crossfades may sound together", () => {
    const mic = zone((z) => ({ mic: z.repeat === 1 ? "a" : "b", repeat: 1 }), idOf(48, 0, 1), idOf(48, 0, 2));
    expect(checkMap(mic.apply(clean())).filter((f) => f.kind === "together")).toEqual([]);
    const fade = zone(
      (z) => (z.velLow === 1 ? { velHigh: 70, velFadeHigh: 10 } : { velLow: 60, velFadeLow: 10 }),
      ...note(48),
    );
    expect(checkMap(fade.apply(clean())).filter((f) => f.kind === "together")).toEqual([]);
  });

  test("everything at once is put right in one edit, until what is left has no repair", () => {
    let doc = BROKEN.filter(([, , , mended]) => mended).reduce((now, [, , edit]) => edit.apply(now), clean());
    const before = checkMap(doc, FACTS).length;
    for (let round = 0; round < 6; round++) doc = repairs(checkMap(doc, FACTS))?.apply(doc) ?? doc;
    const left = checkMap(doc, FACTS);
    expect(left.length).toBeLessThan(before);
    expect(left.filter((f) => f.repair !== null)).toEqual([]);
  });
});

test("a hole in one layer is found though another layer sounds there", () => {
  const plain = clean();
  const [layer] = plain.layers;
  if (!layer) throw new Error("there is a layer");
  const bed = {
    ...layer,
    id: "bed",
    name: "Bed",
    groups: layer.groups.map((g) => ({
      ...g,
      id: "bed",
      zones: g.zones.map((z) => ({ ...z, id: `bed-${z.id}` })),
    })),
  };
  const both: Instrument = { ...plain, layers: [layer, bed] };
  expect(checkMap(both).filter((f) => f.kind === "silent" || f.kind === "velocity-gap")).toEqual([]);
  const holed: Instrument = {
    ...both,
    layers: [
      layer,
      {
        ...bed,
        groups: bed.groups.map((g) => ({ ...g, zones: g.zones.filter((z) => z.root !== 54 || z.velLow > 1) })),
      },
    ],
  };
  const found = checkMap(holed).filter((f) => f.kind === "velocity-gap");
  expect(found.map((f) => f.text)).toEqual(["Bed: F3–G3: nothing sounds at velocities 1–64"]);
  const mended = repairs(found)?.apply(holed);
  expect(mended && checkMap(mended).filter((f) => f.kind === "velocity-gap")).toEqual([]);
});

test("5,000 zones are judged in time that grows no faster than their number", () => {
  const many = (count: number): Instrument => {
    const samples = Array.from({ length: count }, (_, i) =>
      newSample({
        sha: i.toString(16).padStart(64, "0"),
        name: `s${i}`,
        frames: 1000,
        pitch: i % 128,
        confidence: 0.9,
        loudness: -20,
      }),
    );
    const zones = samples.map((s, i) =>
      newZone({
        id: `z${i}`,
        sample: s.sha,
        end: 1000,
        root: i % 128,
        keyLow: i % 128,
        keyHigh: i % 128,
        velLow: 1 + (Math.floor(i / 128) % 20) * 6,
        velHigh: 6 + (Math.floor(i / 128) % 20) * 6,
        repeat: 1 + Math.floor(i / 2560),
      }),
    );
    return together("", [addSamples(samples), placeZones("main", "main", zones, true)]).apply(
      newInstrument("i", "Many"),
    );
  };
  const reads = new Reads();
  const counted = (doc: Instrument): Instrument => ({
    ...doc,
    layers: doc.layers.map((l) => ({
      ...l,
      groups: l.groups.map((g) => ({ ...g, zones: g.zones.map((z) => reads.of(z)) })),
    })),
  });
  const cost = (count: number): number => {
    const doc = counted(many(count));
    return reads.during(() => checkMap(doc));
  };
  const few = cost(500);
  expect(few).toBeGreaterThan(500);
  expect(cost(5000)).toBeLessThan(40 * few);
});
