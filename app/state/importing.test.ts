import { beforeEach, describe, expect, jest, test } from "@jest/globals";
import {
  addSamples,
  History,
  type Instrument,
  listZones,
  newInstrument,
  newSample,
  newZone,
  placeZones,
  type Sample,
} from "../../core/instrument";

class Cancelled extends Error {}
const shaOf = (text: string): string => Buffer.from(text).toString("hex").padEnd(64, "0").slice(0, 64);

/** What the worker makes of a file: its first word says what it is to be. */
const openSound = jest.fn(async (file: File, path: string, asSample = false) => {
  const text = await file.text();
  if (text.startsWith("broken")) return { ok: false, code: "truncated", message: "it ends too early", salvage: false };
  if (text.startsWith("foreign"))
    return { ok: false, code: "not-this-format", message: "it is no WAV", salvage: false };
  if (text.startsWith("crash")) throw new Error("the worker could not go on");
  if (text.startsWith("cancel")) throw new Cancelled("cancelled");
  const facts = { rate: 44100, channels: 1, frames: 10, markers: [], warnings: [], text: "", date: "" };
  if (text.startsWith("long") && !asSample)
    return { ok: true, kind: "recording", opened: { ok: true, sha: shaOf(text), ...facts } };
  const name = path.replace(/^.*\//, "").replace(/\.\w+$/, "");
  const sample = newSample({
    sha: shaOf(text),
    name,
    frames: 10,
    file: { path, root: null, loop: null, further: [], range: null, text: "" },
  });
  return { ok: true, kind: "sample", sample, sounds: 1, warnings: text.startsWith("odd") ? ["its end is odd"] : [] };
});
const storeSample = jest.fn(async (channels: Float32Array[], rate: number, path: string) => ({
  ok: true,
  kind: "sample",
  sample: newSample({ sha: "e".repeat(64), name: path, frames: channels[0]?.length ?? 0, rate }),
  sounds: 1,
  warnings: [],
}));
const store = jest.fn(async () => ({
  ok: true,
  sha: "d".repeat(64),
  rate: 48000,
  channels: 2,
  frames: 20,
  markers: [],
  warnings: [],
  text: "",
  date: "2026-11-20",
}));
const told: string[] = [];
const actions: (() => void)[] = [];
const proposed: (readonly Sample[])[] = [];
const laid: { readonly samples: readonly Sample[]; readonly at: unknown }[] = [];
const opened: string[][] = [];
let history: History = History.of(newInstrument("t", "Test"));
let reading = false;

jest.unstable_mockModule("../workers/audio-worker", () => ({ Cancelled }));
jest.unstable_mockModule("./with-progress", () => ({
  withProgress: (_label: string, run: (worker: unknown, progress: () => void) => unknown) =>
    run({ openSound, storeSample, store }, () => {}),
}));
jest.unstable_mockModule("./with-workers", () => ({
  withWorkers: async (
    _label: string,
    things: readonly File[],
    work: (worker: unknown, file: File) => Promise<unknown>,
  ) => {
    const results: unknown[] = [];
    try {
      for (const thing of things) results.push(await work({ openSound, storeSample, store }, thing));
    } catch (error) {
      if (!(error instanceof Cancelled)) throw error;
      return { results, cancelled: true };
    }
    return { results, cancelled: false };
  },
}));
jest.unstable_mockModule("./notices", () => ({
  tell: (kind: string, text: string, action: { run: () => void } | null = null) => {
    told.push(`${kind}: ${text}`);
    if (action) actions.push(action.run);
  },
}));
jest.unstable_mockModule("./session", () => ({
  session: {
    store: { getState: () => ({ reading }) },
    get instrument(): Instrument {
      return history.present;
    },
    keepBefore: () => {},
    undoAction: () => ({ label: "Undo", run: () => {}, still: () => true }),
    putInto: async (_id: string, edit: Parameters<History["commit"]>[0]) => {
      history = history.commit(edit);
      return "open";
    },
  },
}));
jest.unstable_mockModule("./open-instrument", () => ({ openStored: async () => true }));
jest.unstable_mockModule("./proposing", () => ({
  proposing: { propose: async (samples: readonly Sample[]) => proposed.push(samples) },
}));
const sfz: string[][] = [];
jest.unstable_mockModule("./open-sfz", () => ({
  isSfz: (f: File) => f.name.endsWith(".sfz"),
  openSfz: async (files: readonly File[]) => sfz.push(files.map((f) => f.name)),
}));
const songs: string[] = [];
jest.unstable_mockModule("./songs", () => ({
  isSong: (f: File) => f.name.endsWith(".mid"),
  openSong: async (f: File) => songs.push(f.name),
}));
jest.unstable_mockModule("./laying", () => ({
  layFrom: (samples: readonly Sample[], at: unknown) => laid.push({ samples, at }),
}));
jest.unstable_mockModule("./files", () => ({
  isPackage: async (file: File) => (await file.text()).startsWith("PK"),
  openFiles: async (files: readonly File[]) => opened.push(files.map((f) => f.name)),
}));
/** What is stored here; null: everything. */
let stored: ReadonlySet<string> | null = null;
jest.unstable_mockModule("../storage/audio-files", () => ({
  storedAudio: async () => stored ?? new Set(history.present.samples.map((s) => s.sha)),
}));
jest.unstable_mockModule("./use-session", () => ({ useInstrument: () => [] }));
jest.unstable_mockModule("./storage-space", () => ({ warnOfSpace: async () => {} }));
jest.unstable_mockModule("./decode-by-browser", () => ({
  lengthByBrowser: async (file: Blob) => {
    const text = await file.text();
    return text.includes("opera") ? 3 * 3600 : text.includes("song") ? 200 : 2;
  },
  decodeByBrowser: async (file: Blob) =>
    /music|song/.test(await file.text()) ? { rate: 48000, channels: [new Float32Array(20)] } : null,
}));
const { openDropped } = await import("./importing");
const { whereaboutsBy } = await import("./whereabouts");
/** Where somebody stands. */
let pathname = "/take";
whereaboutsBy(() => ({ pathname, search: "", leaving: false }));

const file = (name: string, text: string) => new File([text], name, { lastModified: 1e12 });
/** A file during whose opening somebody goes elsewhere. */
const whileOpened = (opening: File, to: string): File =>
  Object.assign(opening, {
    text: () => {
      pathname = to;
      return File.prototype.text.call(opening);
    },
  });
const samples = (): string[] => history.present.samples.map((s) => s.name);
const went: string[] = [];
const drop = (files: readonly File[], at?: Parameters<typeof openDropped>[2]) =>
  openDropped(files, (to) => went.push(to), at);

beforeEach(() => {
  history = History.of(newInstrument("t", "Test"));
  reading = false;
  stored = null;
  pathname = "/take";
  for (const list of [told, actions, proposed, laid, opened, went, songs]) list.length = 0;
});

describe("what is dropped comes in as what it is", () => {
  test("samples in the order of their names as one step, proposed to be placed; the bad ones are told by name and stop no other", async () => {
    await drop([file("s10.wav", "x10"), file("bad.wav", "broken"), file("s2.wav", "x2"), file("cover.jpg", "foreign")]);
    expect(samples()).toEqual(["s2", "s10"]);
    expect(history.undo().present.samples).toEqual([]);
    expect(proposed.map((p) => p.map((s) => s.name))).toEqual([["s2", "s10"]]);
    expect(went).toEqual(["/map"]);
    expect(told).toEqual([
      "good: 2 samples of 4 files.",
      "warning: 2 files were not opened: bad.wav (it ends too early), cover.jpg (it is no WAV).",
    ]);
  });

  test("whoever has gone on to something else isn't taken away from it: what came in is told, with a way to place it", async () => {
    await drop([file("a.wav", "aa"), whileOpened(file("b.wav", "bb"), "/loop")]);
    expect(samples()).toEqual(["a", "b"]);
    expect([went, proposed]).toEqual([[], []]);
    expect(told).toEqual(["good: 2 samples of 2 files."]);
    actions[0]?.();
    expect(went).toEqual(["/map"]);
    expect(proposed.map((p) => p.map((s) => s.name))).toEqual([["a", "b"]]);
    await drop([whileOpened(file("session.wav", "long one"), "/sound")]);
    expect(history.present.takes).toMatchObject([{ name: "session" }]);
    expect(went).toEqual(["/map"]);
  });

  test("what was dropped on a key is laid there, wherever one stands by then", async () => {
    await drop([whileOpened(file("a.wav", "aa"), "/loop")], { key: 60, step: "white", target: new Set() });
    expect([laid.length, went]).toEqual([1, []]);
  });

  test("a song alone is what is played; one that lies among samples is passed over", async () => {
    await drop([file("ride.mid", "MThd")]);
    expect([songs, samples(), told]).toEqual([["ride.mid"], [], []]);
    await drop([file("ride home.mid", "MThd"), file("a.wav", "aa")]);
    expect([songs, samples()]).toEqual([["ride.mid"], ["a"]]);
    expect(told).toEqual(["good: 1 sample of 1 file."]);
  });

  test("recordings among them become takes; alone they lead to Take", async () => {
    await drop([file("a.wav", "aa"), file("session.wav", "long one")]);
    expect(samples()).toEqual(["a"]);
    expect(history.present.takes).toMatchObject([{ name: "session", source: "session.wav", origin: "imported" }]);
    expect(told[0]).toContain("1 sample and 1 recording as a take");
    await drop([file("session 2.wav", "long two")]);
    expect(went).toEqual(["/map", "/take"]);
    expect(proposed).toHaveLength(1);
  });

  test("recordings are samples instead by one press, and undo gives back the takes", async () => {
    await drop([file("a.wav", "aa"), file("session.wav", "long one")]);
    const before = history;
    actions[0]?.();
    await new Promise((done) => setTimeout(done));
    await new Promise((done) => setTimeout(done));
    expect(samples()).toEqual(["a", "session"]);
    expect(history.present.takes).toEqual([]);
    expect(proposed.at(-1)?.map((s) => s.name)).toEqual(["session"]);
    expect(history.undo().present).toEqual(before.present);
  });

  test("what is here already comes in once, within a drop and after it", async () => {
    history = history.commit(addSamples([newSample({ sha: shaOf("same"), name: "first", frames: 10 })]));
    await drop([file("b.wav", "same"), file("c.wav", "new"), file("d.wav", "new")]);
    expect(samples()).toEqual(["first", "c"]);
    expect(told).toContain("warning: 2 files hold a sound that is here already: b.wav, d.wav.");
  });

  test("packages are opened as such, beside the sounds", async () => {
    await drop([file("harp.vise", "PK.."), file("a.wav", "aa")]);
    expect(opened).toEqual([["harp.vise"]]);
    expect(samples()).toEqual(["a"]);
  });

  test("what the core doesn't read is given to the browser; a long song is a recording, an opera is refused by its length", async () => {
    await drop([file("a.mp3", "foreign music"), file("b.mp3", "foreign song"), file("c.mp3", "foreign opera")]);
    expect(samples()).toEqual(["a.mp3"]);
    expect(history.present.takes).toMatchObject([{ name: "b", rate: 48000, channels: 2 }]);
    expect(told.at(-1)).toContain("c.mp3 (it is 3 h 0 min long");
  });

  test("a worker that fails on one file doesn't stop the rest; cancelling keeps what came until then", async () => {
    await drop([file("a.wav", "crash"), file("b.wav", "bb"), file("c.wav", "cancel"), file("d.wav", "dd")]);
    expect(samples()).toEqual(["b"]);
    expect(told[0]).toBe("good: 1 sample of 4 files, before it was stopped.");
    expect(told.at(-1)).toContain("a.wav (the worker could not go on)");
  });

  test("dropped on a key they are laid from there, not proposed", async () => {
    const at = { key: 60, step: "white" as const, target: new Set(["z"]) };
    await drop([file("a.wav", "aa"), file("b.wav", "bb")], at);
    expect(laid.map((l) => [l.samples.length, l.at])).toEqual([[2, at]]);
    expect(proposed).toEqual([]);
  });

  test("where another tab writes nothing is brought in, and that is said", async () => {
    reading = true;
    await drop([file("a.wav", "aa")]);
    expect(samples()).toEqual([]);
    expect(told[0]).toContain("Another tab");
  });

  test("samples that were missing are found among them, by content and by name; the rest is proposed as ever", async () => {
    const file1 = { path: "kit/soft/a3.wav", root: null, loop: null, further: [], range: null, text: "" };
    const lost = [
      newSample({ sha: shaOf("the very same"), name: "was called so", frames: 10, peak: -6 }),
      newSample({ sha: "f".repeat(64), name: "a3", frames: 2, file: file1 }),
    ];
    const zone = newZone({ id: "z", sample: "f".repeat(64), end: 2 });
    history = history.commit(addSamples(lost)).commit(placeZones("main", "main", [zone], true));
    stored = new Set();
    await drop([file("renamed.wav", "the very same"), file("A3.wav", "found"), file("new.wav", "new")]);
    // What they are called here stays.
    expect(samples().sort()).toEqual(["a3", "new", "was called so"]);
    expect(listZones(history.present)[0]).toMatchObject({ sample: shaOf("found"), end: 10 });
    expect(told).toContain("good: 2 missing samples were found.");
    expect(proposed.map((p) => p.map((s) => s.name))).toEqual([["new"]]);
  });

  test("an SFZ file among them is an instrument, and the sounds are its own", async () => {
    await drop([file("kit.sfz", "<region>"), file("a.wav", "aa")]);
    expect(sfz).toEqual([["kit.sfz", "a.wav"]]);
    expect(samples()).toEqual([]);
  });

  test("nothing that can be read changes nothing; warnings are told with their file", async () => {
    await drop([file("a.txt", "foreign words")]);
    expect(history.present.samples).toEqual([]);
    expect(went).toEqual([]);
    expect(told).toEqual(["error: 1 file was not opened: a.txt (it is no WAV)."]);
    await drop([file("b.wav", "odd end")]);
    expect(told).toContain("warning: b.wav: its end is odd");
  });
});
