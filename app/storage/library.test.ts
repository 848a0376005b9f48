import { beforeEach, describe, expect, jest, test } from "@jest/globals";
import {
  addFacePictures,
  addSamples,
  changeAbout,
  changeFace,
  changeZones,
  type Instrument,
  newInstrument,
  newSample,
  newSlice,
  newZone,
  placeZones,
  removeZones,
  together,
} from "../../core/instrument";
import { joinDocument, partNames, splitDocument } from "./document-parts";
import type { Version } from "./library";

/** So many writes more, then the disk is full; null: it isn't. Removing works all the same. */
let full: number | null = null;

/** What localForage does, in memory; keys come back in no particular order, as databases give them. */
class Store {
  readonly items = new Map<string, unknown>();
  writes = 0;
  async getItem(key: string) {
    return this.items.get(key) ?? null;
  }
  failAfter = Number.POSITIVE_INFINITY;
  async setItem(key: string, value: unknown) {
    if (full !== null && full-- <= 0) throw new Error("the disk is full");
    if (this.failAfter-- <= 0) throw new Error("the disk is full");
    this.writes++;
    this.items.set(key, structuredClone(value));
    return value;
  }
  async removeItem(key: string) {
    if (this.failAfter-- <= 0) throw new Error("the page is gone");
    this.items.delete(key);
  }
  async keys() {
    return [...this.items.keys()].reverse();
  }
  async iterate(each: (value: unknown, key: string) => void) {
    for (const [key, value] of this.items) each(value, key);
  }
}
const [instruments, index, blobs, recordings, settings] = Array.from({ length: 5 }, () => new Store()) as [
  Store,
  Store,
  Store,
  Store,
  Store,
];
const addBlobs = async (files: ReadonlyMap<string, Blob>) => {
  for (const [sha, blob] of files) if ((await blobs.getItem(sha)) === null) await blobs.setItem(sha, blob);
};
jest.unstable_mockModule("./stores", () => ({ instruments, index, blobs, recordings, settings, addBlobs }));
const {
  beginRecording,
  forgetRecording,
  forgetThrownAway,
  readChunks,
  readFacts,
  throwAway,
  unfinishedRecordings,
  writeChunk,
  writeFacts,
} = await import("./recordings");
const {
  audioOf,
  deleteInstrument,
  expiredInstruments,
  isStored,
  KEPT_AFTER_REMOVAL,
  keepVersion,
  listDeleted,
  listInstruments,
  listVersions,
  loadInstrument,
  loadVersion,
  purgeInstrument,
  removeVersion,
  restoreInstrument,
  restoreVersion,
  saveInstrument,
  sweepParts,
  thinVersions,
} = await import("./library");
const { audioBytes, storeAudio } = await import("./audio-files");

beforeEach(() => {
  for (const store of [instruments, index, blobs, recordings, settings]) store.items.clear();
  blobs.writes = 0;
});

// biome-ignore lint/style/noRestrictedGlobals: what is kept so long is kept from now on
const NOW = Date.now();

/** Does something at another time. */
async function atTime<T>(time: number, what: () => Promise<T>): Promise<T> {
  // biome-ignore lint/style/noRestrictedGlobals: the clock is set, not asked
  const clock = jest.spyOn(Date, "now").mockReturnValue(time);
  try {
    return await what();
  } finally {
    clock.mockRestore();
  }
}

describe("recordings", () => {
  const info = { id: "r1", name: "take 1", rate: 44100, channels: 2, started: 1, source: "bench mic" };
  const chunk = (n: number) => ({
    from: 2 * n,
    channels: [Float32Array.of(n, n + 0.5), Float32Array.of(-n, -n - 0.5)],
  });
  const read = async (id: string) => {
    const chunks = [];
    for await (const c of readChunks(id)) chunks.push(c);
    return chunks;
  };

  test("chunks come back in the order they came, however many there are", async () => {
    await beginRecording(info);
    await writeFacts("r1", { clips: [], gaps: [], slices: [] });
    for (let n = 0; n < 130; n++) await writeChunk("r1", n, chunk(n));
    expect(await read("r1")).toEqual(Array.from({ length: 130 }, (_, n) => chunk(n)));
  });

  test("one chunk that could not be written costs that chunk: what comes after it is kept", async () => {
    await beginRecording(info);
    for (const n of [0, 1, 3, 4]) await writeChunk("r1", n, chunk(n));
    expect((await read("r1")).map((c) => c.from)).toEqual([0, 2, 6, 8]);
  });

  test("chunks of earlier versions, which don't say where they begin, follow one another", async () => {
    await beginRecording(info);
    for (const n of [0, 1]) recordings.items.set(`r1/00000${n}`, chunk(n).channels);
    expect(await read("r1")).toEqual([chunk(0), chunk(1)]);
  });

  test("what was thrown away can be taken back for a month, with its sound", async () => {
    await beginRecording(info);
    await writeChunk("r1", 0, chunk(1));
    await throwAway("r1", true);
    expect(await unfinishedRecordings()).toEqual([]);
    await forgetThrownAway(1e9, NOW + 1e8);
    await throwAway("r1", false);
    expect(await unfinishedRecordings()).toEqual([info]);
    expect(await read("r1")).toEqual([chunk(1)]);
    await throwAway("r1", true);
    await forgetThrownAway(1e9, NOW + 2e9);
    expect(recordings.items.size).toBe(0);
  });

  test("what was never finished is found; what is forgotten is gone, and nothing else", async () => {
    await beginRecording(info);
    await beginRecording({ ...info, id: "r10" });
    await writeChunk("r1", 0, chunk(1));
    await writeChunk("r10", 0, chunk(2));
    expect((await unfinishedRecordings()).map((r) => r.id).sort()).toEqual(["r1", "r10"]);
    await forgetRecording("r1");
    expect([...recordings.items.keys()].sort()).toEqual(["r10", "r10/000000"]);
  });

  test("what is known of a recording is kept beside it, and forgotten with it", async () => {
    expect(await readFacts("r1")).toEqual({ clips: [], gaps: [], slices: [] });
    const slice = newSlice({ id: "s1", start: 1, end: 9, onset: 2 });
    await beginRecording(info);
    await writeFacts("r1", { clips: [4], gaps: [], slices: [] });
    await writeFacts("r1", { clips: [4], gaps: [7], slices: [slice] });
    expect(await readFacts("r1")).toEqual({ clips: [4], gaps: [7], slices: [slice] });
    expect(await read("r1")).toEqual([]);
    expect((await unfinishedRecordings()).map((r) => r.id)).toEqual(["r1"]);
    await forgetRecording("r1");
    expect(recordings.items.size).toBe(0);
  });
});

describe("library", () => {
  test("lists what is there, the last changed first, and gives back what was saved", async () => {
    for (const [id, time] of [
      ["a", 10],
      ["b", 30],
      ["c", 20],
    ] as const)
      await atTime(time, () => saveInstrument(newInstrument(id, id.toUpperCase())));
    expect((await listInstruments()).map((e) => [e.id, e.name, e.zones, e.takes, e.changed])).toEqual([
      ["b", "B", 0, 0, 30],
      ["c", "C", 0, 0, 20],
      ["a", "A", 0, 0, 10],
    ]);
    expect((await loadInstrument("a"))?.instrument).toEqual(newInstrument("a", "A"));
    await deleteInstrument("a");
    expect(await loadInstrument("a")).toBeNull();
    await restoreInstrument("a");
    expect((await loadInstrument("a"))?.instrument).toEqual(newInstrument("a", "A"));
    expect((await listInstruments()).map((e) => e.changed)).toEqual([30, 20, 10]);
  });

  test("one that can't be read says which and why, stays where it is, and can be opened with its loss", async () => {
    const broken = { ...newInstrument("x", "Broken"), macros: "none" as never };
    instruments.items.set("x", { changed: 1, document: broken });
    await expect(loadInstrument("x")).rejects.toThrow(/“Broken” can't be read: macros/);
    const before = structuredClone(instruments.items.get("x"));
    expect((await loadInstrument("x", true))?.instrument.macros).toEqual([]);
    await deleteInstrument("x");
    expect(await loadInstrument("x", true)).toBeNull();
    expect(await listInstruments()).toEqual([]);
    await restoreInstrument("x");
    expect(instruments.items.get("x")).toEqual(before);
    expect(await listInstruments()).toHaveLength(1);
  });

  const rich = (): Instrument =>
    together("", [
      addSamples([newSample({ sha: "ab".repeat(32), name: "one", frames: 100 })]),
      placeZones("main", "main", [newZone({ id: "z", sample: "ab".repeat(32), end: 100 })], true),
    ]).apply(newInstrument("p", "Parts"));

  test("an edit writes only the parts that it changed, and what they replace is gone", async () => {
    let saved = await saveInstrument(rich());
    const keys = () => [...instruments.items.keys()].filter((k) => k.includes("/part/"));
    expect(keys()).toHaveLength(5);
    const zones = saved.head.parts["zones/main/main/0"];
    instruments.writes = 0;
    for (let i = 0; i < 5; i++)
      saved = await saveInstrument(changeAbout({ name: `n${i}` }).apply(saved.document), saved);
    // The rest and the head.
    expect(instruments.writes).toBe(10);
    expect(saved.head.parts["zones/main/main/0"]).toBe(zones);
    expect(keys()).toHaveLength(5);
    expect((await loadInstrument("p"))?.instrument).toEqual(saved.document);
    saved = await saveInstrument(removeZones(new Set(["z"])).apply(saved.document), saved);
    expect(saved.head.parts["zones/main/main/0"]).not.toBe(zones);
    expect((await loadInstrument("p"))?.instrument).toEqual(saved.document);
  });

  test("of thousands of zones an edit of one writes a few hundred; older documents, whose zones lie together, open as before", async () => {
    const sample = "ab".repeat(32);
    const many = together("", [
      addSamples([newSample({ sha: sample, name: "one", frames: 100 })]),
      placeZones(
        "main",
        "main",
        Array.from({ length: 1000 }, (_, i) => newZone({ id: `z${i}`, sample, end: 100 })),
        true,
      ),
    ]).apply(newInstrument("p", "Parts"));
    const saved = await saveInstrument(many);
    const next = changeZones(new Set(["z600"]), "Set level", (z) => ({ ...z, gain: 3 })).apply(many);
    const parts = splitDocument(next, many);
    expect([...parts.keys()].sort()).toEqual(["rest", "zones/main/main/2"]);
    expect(parts.get("zones/main/main/2")).toHaveLength(256);
    const again = await saveInstrument(next, saved);
    expect((await loadInstrument("p"))?.instrument).toEqual(next);
    // Fewer zones: the pieces that are no longer needed don't come back.
    const few = removeZones(new Set(Array.from({ length: 900 }, (_, i) => `z${i}`))).apply(next);
    await saveInstrument(few, again);
    expect((await loadInstrument("p"))?.instrument).toEqual(few);
    const whole = new Map(splitDocument(few));
    for (const name of [...whole.keys()]) if (name.startsWith("zones/")) whole.delete(name);
    whole.set("zones/main", { main: few.layers[0]?.groups[0]?.zones });
    expect(joinDocument(whole)).toEqual(few);
    // Pictures of the face are written once, however often the face is changed.
    const picture = { id: "p", name: "P", width: 8, height: 8, data: "data:image/png;base64,AAAA" };
    const drawn = addFacePictures([picture]).apply(few);
    expect([...splitDocument(drawn, few).keys()].sort()).toEqual(["pictures", "rest"]);
    const turned = changeFace("", { width: 300 }).apply(drawn);
    expect([...splitDocument(turned, drawn).keys()]).toEqual(["rest"]);
    expect(JSON.stringify(splitDocument(turned, drawn).get("rest"))).not.toContain("AAAA");
    expect(joinDocument(splitDocument(turned))).toEqual(turned);
  });

  test("a crash between any two writes leaves the document before or the one after, never a mixture", async () => {
    const first = await saveInstrument(rich());
    const next = together("", [removeZones(new Set(["z"])), changeAbout({ name: "Next" })]).apply(first.document);
    const before = new Map(instruments.items);
    for (let crash = 0; crash < 6; crash++) {
      instruments.items.clear();
      for (const [key, value] of before) instruments.items.set(key, value);
      instruments.failAfter = crash;
      await saveInstrument(next, first).catch(() => {});
      instruments.failAfter = Number.POSITIVE_INFINITY;
      const back = (await loadInstrument("p"))?.instrument as Instrument;
      expect([first.document, next]).toContainEqual(back);
      await sweepParts("p");
      expect((await loadInstrument("p"))?.instrument).toEqual(back);
      expect([...instruments.items.keys()].filter((k) => k.includes("/part/"))).toHaveLength(partNames(back).length);
    }
  });

  test("what was stored whole, before there were parts, is opened, listed and kept like any other", async () => {
    instruments.items.set("p", { changed: 5, document: rich() });
    expect(await listInstruments()).toMatchObject([{ id: "p", name: "Parts", zones: 1, changed: 5 }]);
    await keepVersion("p", "as it was", true);
    expect((await loadInstrument("p"))?.instrument).toEqual(rich());
    expect(await listVersions("p")).toMatchObject([{ name: "as it was", byHand: true }]);
  });

  test("versions share what didn't change, come back as they were, and keep their audio", async () => {
    let saved = await saveInstrument(rich());
    await keepVersion("p", "first", true);
    saved = await saveInstrument(changeAbout({ name: "Changed" }).apply(saved.document), saved);
    saved = await saveInstrument(removeZones(new Set(["z"])).apply(saved.document), saved);
    saved = await saveInstrument({ ...saved.document, samples: [] }, saved);
    const [version] = await listVersions("p");
    if (!version) throw new Error("no version was kept");
    expect(await loadVersion("p", version)).toEqual(rich());
    expect(await audioOf("p")).toEqual(new Set(["ab".repeat(32)]));
    await removeVersion("p", version.id);
    expect(await listVersions("p")).toEqual([]);
    // For a month it can be taken back, whatever is swept.
    await sweepParts("p");
    await restoreVersion("p", version.id);
    expect((await listVersions("p")).map((v) => v.id)).toEqual([version.id]);
    expect(await loadVersion("p", version)).toEqual(rich());
    await removeVersion("p", version.id);
    await atTime(NOW + KEPT_AFTER_REMOVAL + 1e7, () => keepVersion("p", "later", true));
    expect(await audioOf("p")).toEqual(new Set());
    expect((await loadInstrument("p"))?.instrument).toEqual(saved.document);
  });

  test("a day's versions: one every five minutes for eight hours, or every forty seconds for one, keep what they say", async () => {
    const replay = (seconds: number, count: number): Version[] => {
      let kept: Version[] = [];
      for (let i = 0; i < count; i++) {
        const when = 1e12 + i * seconds * 1000;
        const before = kept[0];
        kept = thinVersions(
          [{ id: `v${i}`, when, name: "", byHand: false, head: { changed: 0, parts: {} } }, ...kept],
          when,
        );
        if (before) expect(kept[1]).toBe(before);
      }
      return kept;
    };
    const hours = new Set(replay(300, 96).map((v) => Math.floor(v.when / 3600000)));
    expect(hours.size).toBeGreaterThanOrEqual(8);
    expect(replay(300, 96).length).toBeGreaterThan(18);
    expect(replay(40, 90).length).toBeGreaterThan(45);
  });

  test("what was deleted is kept for a month with its audio, and then removed", async () => {
    await saveInstrument(rich());
    await deleteInstrument("p");
    expect((await listDeleted()).map((e) => e.id)).toEqual(["p"]);
    expect(await isStored("p")).toBe(false);
    expect(await audioOf("p")).toEqual(new Set(["ab".repeat(32)]));
    expect(await expiredInstruments(NOW + KEPT_AFTER_REMOVAL - 1e7)).toEqual([]);
    await restoreInstrument("p");
    expect((await loadInstrument("p"))?.instrument).toEqual(rich());
    await purgeInstrument("p");
    expect(await isStored("p")).toBe(true);
    await deleteInstrument("p");
    for (const id of await expiredInstruments(NOW + KEPT_AFTER_REMOVAL + 1e7)) await purgeInstrument(id);
    expect([...instruments.items.keys(), ...index.items.keys()]).toEqual([]);
  });

  test("a save that fails leaves nothing behind, however often it is tried", async () => {
    const first = await saveInstrument(rich());
    const next = together("", [removeZones(new Set(["z"])), changeAbout({ name: "Next" })]).apply(first.document);
    const before = [...instruments.items.keys()].sort();
    for (let attempt = 0; attempt < 20; attempt++) {
      full = attempt % 4;
      await saveInstrument(next, first).catch(() => {});
      full = null;
      const now = [...instruments.items.keys()].sort();
      if ((await loadInstrument("p"))?.instrument.about.name === "Parts") expect(now).toEqual(before);
    }
  });

  test("one that another tab stores anew while it is read is read again; a part that is nowhere is a loss that is told", async () => {
    let saved = await saveInstrument(rich());
    const next = together("", [removeZones(new Set(["z"])), changeAbout({ name: "Next" })]).apply(saved.document);
    const overtaken = jest.spyOn(instruments, "getItem").mockImplementationOnce(async (key: string) => {
      const head = instruments.items.get(key);
      saved = await saveInstrument(next, saved);
      return head as object;
    });
    expect((await loadInstrument("p"))?.instrument).toEqual(next);
    overtaken.mockRestore();
    instruments.items.delete(saved.head.parts.samples as string);
    await expect(loadInstrument("p")).rejects.toThrow(/samples isn't in this browser's storage/);
    expect((await loadInstrument("p", true))?.instrument.about.name).toBe("Next");
  });

  test("versions that keep themselves thin out with age; those kept by hand stay", () => {
    const now = 1e12;
    const at = (minutes: number, byHand = false): Version => ({
      id: `v${minutes}`,
      when: now - minutes * 60000,
      name: "",
      byHand,
      head: { changed: 0, parts: {} },
    });
    const many = Array.from({ length: 3000 }, (_, i) => at(i * 10, i === 2500)).concat(at(60 * 24 * 3000));
    const kept = thinVersions(many, now);
    expect(kept.length).toBeLessThan(60);
    expect(kept.filter((v) => now - v.when <= 3600000)).toHaveLength(7);
    expect(kept.map((v) => v.id)).toContain("v25000");
    expect(kept.map((v) => v.id)).not.toContain(`v${60 * 24 * 3000}`);
    expect(thinVersions(kept, now)).toEqual(kept);
  });
});

describe("audio files", () => {
  test("the same content is stored once and read back as it was", async () => {
    const bytes = Uint8Array.of(1, 2, 3);
    await storeAudio("sha", bytes);
    await storeAudio("sha", bytes);
    expect(blobs.writes).toBe(1);
    expect(await audioBytes("sha")).toEqual(bytes);
    expect(await audioBytes("other")).toBeNull();
  });
});
