import { describe, expect, test } from "@jest/globals";
import {
  addSamples,
  History,
  type Instrument,
  listZones,
  newInstrument,
  newSample,
  newZone,
  placeZones,
} from "../instrument";
import { type Laying, layEdit } from "./lay-samples";

const sample = (path: string, n: number) =>
  newSample({
    sha: String(n).padStart(64, "0"),
    name: path.split("/").at(-1) ?? "",
    frames: 1000 + n,
    file: { path, root: null, loop: null, further: [], range: null, text: "" },
  });
const samplesOf = (...paths: string[]) => paths.map(sample);

const LAYING: Laying = { key: 60, step: "all", cover: false, folders: "together", onto: "keys" };
const begun = (samples: ReturnType<typeof samplesOf>): Instrument =>
  addSamples(samples).apply(newInstrument("lay", "Lay"));

function lay(samples: ReturnType<typeof samplesOf>, given: Partial<Laying>, from?: Instrument, target: string[] = []) {
  const doc = from ?? begun(samples);
  let n = 0;
  const zones = listZones(doc).filter((z) => target.includes(z.id));
  const laid = layEdit(doc, samples, { ...LAYING, ...given }, zones, () => `n${n++}`);
  if (!laid) throw new Error("nothing was laid");
  return { ...laid, doc: laid.edit.apply(doc) };
}
const keys = (doc: Instrument) => listZones(doc).map((z) => `${z.keyLow}–${z.keyHigh} ${z.root}`);

describe("samples that are dropped on a key", () => {
  const three = samplesOf("a rim.wav", "b spoke.wav", "c hub.wav");

  test("a key each, by white keys, every n-th, covering what lies between or not", () => {
    expect(keys(lay(three, {}).doc)).toEqual(["60–60 60", "61–61 61", "62–62 62"]);
    expect(keys(lay(three, { step: "white" }).doc)).toEqual(["60–60 60", "62–62 62", "64–64 64"]);
    expect(keys(lay(three, { step: "white", cover: true }).doc)).toEqual(["60–61 60", "62–63 62", "64–64 64"]);
    expect(keys(lay(three, { step: 5, cover: true }).doc)).toEqual(["60–64 60", "65–69 65", "70–74 70"]);
    expect(keys(lay(three.slice(0, 1), { step: 12, cover: true }).doc)).toEqual(["60–71 60"]);
  });

  test("what has no key left gets none, and is counted", () => {
    const { doc, left, zones } = lay(three, { key: 126 });
    expect(keys(doc)).toEqual(["126–126 126", "127–127 127"]);
    expect([left, zones.size]).toEqual([1, 2]);
    expect(keys(lay(three, { key: 120, step: 12, cover: true }).doc)).toEqual(["120–127 120"]);
  });

  test("a folder becomes a group or a layer, each from the key on", () => {
    const two = samplesOf("wheel/front/a.wav", "wheel/front/b.wav", "wheel/rear/a.wav");
    const groups = lay(two, { folders: "groups" }).doc.layers[0]?.groups;
    expect(groups?.map((g) => `${g.name}: ${g.zones.map((z) => z.keyLow).join(" ")}`)).toEqual([
      "Main: ",
      "front: 60 61",
      "rear: 60",
    ]);
    const layers = lay(two, { folders: "layers" }).doc.layers;
    expect(layers.map((l) => `${l.name}: ${l.groups.flatMap((g) => g.zones.map((z) => z.keyLow)).join(" ")}`)).toEqual([
      "Main: ",
      "front: 60 61",
      "rear: 60",
    ]);
  });

  test("microphones of one stroke share its key", () => {
    const miked = samplesOf(
      ...["tap 1", "tap 2", "tap 3"].flatMap((name) => [`bench/${name} near.wav`, `bench/${name} far.wav`]),
    );
    const { doc } = lay(miked, {});
    const at = (key: number) => listZones(doc).filter((z) => z.keyLow === key);
    expect([60, 61, 62, 63].map((k) => at(k).length)).toEqual([2, 2, 2, 0]);
    expect(new Set(at(60).map((z) => z.mic)).size).toBe(2);
    expect(doc.mics.map((m) => m.id).sort()).toEqual([...new Set(listZones(doc).map((z) => z.mic))].sort());
  });

  test("on a zone: as its next repeats, or in place of its sample with its loops let go", () => {
    const zone = newZone({
      ...{ id: "z", sample: three[0]?.sha ?? "", end: 900, start: 100, keyLow: 40, keyHigh: 50, root: 45, velLow: 64 },
      gain: -2,
    });
    const doc = placeZones("main", "main", [zone], false).apply(begun(three));
    const repeats = listZones(lay(three.slice(1), { onto: "repeats" }, doc, ["z"]).doc);
    expect(repeats.map((z) => [z.keyLow, z.keyHigh, z.velLow, z.gain, z.repeat, z.start, z.end])).toEqual([
      [40, 50, 64, -2, 1, 100, 900],
      [40, 50, 64, -2, 2, 0, 1001],
      [40, 50, 64, -2, 3, 0, 1002],
    ]);
    const instead = lay(three.slice(1), { onto: "instead" }, doc, ["z"]);
    expect(listZones(instead.doc)).toEqual([{ ...zone, sample: three[1]?.sha, start: 0, end: 1001 }]);
    expect(instead.left).toBe(1);
  });

  test("another way to lay them in the same gesture begins anew, and is one undo step", () => {
    const doc = begun(three);
    const first = History.of(doc).commit(lay(three, { folders: "layers" }).edit, "drag-1");
    const second = first.commit(lay(three, { step: 2 }).edit, "drag-1");
    expect(keys(second.present)).toEqual(["60–60 60", "62–62 62", "64–64 64"]);
    expect(second.present.layers).toHaveLength(1);
    expect(second.undo().present).toEqual(doc);
  });
});
