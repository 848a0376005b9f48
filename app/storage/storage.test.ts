import { beforeEach, describe, expect, jest, test } from "@jest/globals";
import { newInstrument, newSlice } from "../../core/instrument";

/** What localForage does, in memory; keys come back in no particular order, as databases give them. */
class Store {
  readonly items = new Map<string, unknown>();
  writes = 0;
  async getItem(key: string) {
    return this.items.get(key) ?? null;
  }
  async setItem(key: string, value: unknown) {
    this.writes++;
    this.items.set(key, structuredClone(value));
    return value;
  }
  async removeItem(key: string) {
    this.items.delete(key);
  }
  async keys() {
    return [...this.items.keys()].reverse();
  }
  async iterate(each: (value: unknown, key: string) => void) {
    for (const [key, value] of this.items) each(value, key);
  }
}
const [instruments, blobs, recordings, settings] = [new Store(), new Store(), new Store(), new Store()];
jest.unstable_mockModule("./stores", () => ({ instruments, blobs, recordings, settings }));
const { beginRecording, forgetRecording, readFacts, readRecording, unfinishedRecordings, writeChunk, writeFacts } =
  await import("./recordings");
const { deleteInstrument, listInstruments, loadInstrument, saveInstrument } = await import("./library");
const { audioBytes, storeAudio } = await import("./audio-files");

beforeEach(() => {
  for (const store of [instruments, blobs, recordings, settings]) store.items.clear();
  blobs.writes = 0;
});

describe("recordings", () => {
  const info = { id: "r1", name: "take 1", rate: 44100, channels: 2, started: 1, source: "bench mic" };
  const chunk = (n: number) => [Float32Array.of(n, n + 0.5), Float32Array.of(-n, -n - 0.5)];

  test("chunks are joined in the order they came, however many there are", async () => {
    await beginRecording(info);
    for (let n = 0; n < 130; n++) await writeChunk("r1", n, chunk(n));
    const [left, right] = await readRecording(info);
    expect(left?.length).toBe(260);
    for (let n = 0; n < 130; n++) {
      expect(left?.[2 * n]).toBe(n);
      expect(right?.[2 * n + 1]).toBe(-n - 0.5);
    }
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

  test("a chunk of another width neither moves a channel nor loses one", async () => {
    await beginRecording({ ...info, channels: 1 });
    await writeChunk("r1", 0, [Float32Array.of(1, 2)]);
    await writeChunk("r1", 1, [Float32Array.of(3), Float32Array.of(-3)]);
    expect(await readRecording({ ...info, channels: 1 })).toEqual([
      Float32Array.of(1, 2, 3),
      Float32Array.of(1, 2, -3),
    ]);
  });

  test("what is known of a recording is kept beside it, and forgotten with it", async () => {
    expect(await readFacts("r1")).toEqual({ clips: [], gaps: [], slices: [] });
    const slice = newSlice({ id: "s1", start: 1, end: 9, onset: 2 });
    await beginRecording(info);
    await writeFacts("r1", { clips: [4], gaps: [], slices: [] });
    await writeFacts("r1", { clips: [4], gaps: [7], slices: [slice] });
    expect(await readFacts("r1")).toEqual({ clips: [4], gaps: [7], slices: [slice] });
    expect((await readRecording(info)).map((c) => c.length)).toEqual([0, 0]);
    expect((await unfinishedRecordings()).map((r) => r.id)).toEqual(["r1"]);
    await forgetRecording("r1");
    expect(recordings.items.size).toBe(0);
  });

  test("a recording of which nothing was written is empty, not an error", async () => {
    expect((await readRecording(info)).map((c) => c.length)).toEqual([0, 0]);
  });
});

describe("library", () => {
  test("lists what is there, the last changed first, and gives back what was saved", async () => {
    const clock = jest.spyOn(Date, "now");
    for (const [id, time] of [
      ["a", 10],
      ["b", 30],
      ["c", 20],
    ] as const) {
      clock.mockReturnValue(time);
      await saveInstrument(newInstrument(id, id.toUpperCase()));
    }
    clock.mockRestore();
    expect((await listInstruments()).map((e) => [e.id, e.name, e.zones, e.takes, e.changed])).toEqual([
      ["b", "B", 0, 0, 30],
      ["c", "C", 0, 0, 20],
      ["a", "A", 0, 0, 10],
    ]);
    expect(await loadInstrument("a")).toEqual(newInstrument("a", "A"));
    const putBack = await deleteInstrument("a");
    expect(await loadInstrument("a")).toBeNull();
    await putBack();
    expect(await loadInstrument("a")).toEqual(newInstrument("a", "A"));
    expect((await listInstruments()).map((e) => e.changed)).toEqual([30, 20, 10]);
  });

  test("one that can't be read says which and why, and stays where it is", async () => {
    await saveInstrument({ ...newInstrument("x", "Broken"), macros: "none" as never });
    await expect(loadInstrument("x")).rejects.toThrow(/“Broken” can't be read: macros/);
    expect(instruments.items.has("x")).toBe(true);
    const before = structuredClone(instruments.items.get("x"));
    const putBack = await deleteInstrument("x");
    expect(instruments.items.has("x")).toBe(false);
    await putBack();
    expect(instruments.items.get("x")).toEqual(before);
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
