import { beforeEach, describe, expect, jest, test } from "@jest/globals";
import { History, type Instrument, newInstrument } from "../../core/instrument";

/** What the worker makes of a file: its first bytes say what it is to be. */
const open = jest.fn(async (file: File, salvage: boolean) => {
  const text = await file.text();
  if (text.startsWith("broken"))
    return { ok: false, code: "truncated", message: "it ends too early", salvage: !salvage };
  if (text.startsWith("foreign"))
    return { ok: false, code: "not-this-format", message: "it is no WAV", salvage: false };
  return {
    ok: true,
    sha: Buffer.from(text).toString("hex").padEnd(64, "0").slice(0, 64),
    rate: 44100,
    channels: 1,
    frames: 10,
    markers: [],
    warnings: [],
    text: "",
    date: "",
  };
});
const store = jest.fn(async () => ({
  ok: true,
  sha: "f".repeat(64),
  rate: 48000,
  channels: 2,
  frames: 20,
  markers: [],
  warnings: [],
  text: "",
  date: "",
}));
const told: string[] = [];
let history: History = History.of(newInstrument("t", "Test"));
class Cancelled extends Error {}

jest.unstable_mockModule("../workers/audio-worker", () => ({
  Cancelled,
  audioWorker: () => ({ open, store }),
}));
jest.unstable_mockModule("./with-progress", () => ({
  withProgress: (_label: string, run: (worker: unknown, progress: () => void) => unknown) =>
    run({ open, store }, () => {}),
}));
jest.unstable_mockModule("./notices", () => ({
  tell: (_kind: string, text: string) => told.push(text),
  beginJob: () => ({ show: () => {}, end: () => {} }),
}));
jest.unstable_mockModule("./session", () => ({
  Unsaved: class extends Error {},
  Broken: class extends Error {},
  session: {
    store: { subscribe: () => {}, getState: () => ({ reading: false }) },
    get instrument(): Instrument {
      return history.present;
    },
    keepBefore: () => {},
    putInto: async (_id: string, edit: Parameters<History["commit"]>[0]) => {
      history = history.commit(edit);
      return "open";
    },
  },
}));
jest.unstable_mockModule("./storage-space", () => ({ warnOfSpace: async () => {} }));
jest.unstable_mockModule("./decode-by-browser", () => ({
  lengthByBrowser: async (file: Blob) => ((await file.text()).includes("opera") ? 3 * 3600 : null),
  decodeByBrowser: async (file: Blob) =>
    (await file.text()).includes("music")
      ? { rate: 48000, channels: [new Float32Array(20), new Float32Array(20)] }
      : null,
}));
const { openFiles } = await import("./files");

const file = (name: string, text: string) => new File([text], name, { lastModified: 1e12 });
const names = () => history.present.takes.map((t) => t.name);

beforeEach(() => {
  history = History.of(newInstrument("t", "Test"));
  told.length = 0;
});

describe("opening files", () => {
  test("many are one step; what isn't sound is passed over; a bad one is told by name and stops no other", async () => {
    const went: string[] = [];
    await openFiles(
      [file("one.wav", "aaa"), file("cover.jpg", "foreign"), file("bad.wav", "broken"), file("two.flac", "bbb")],
      (to) => went.push(to),
    );
    expect(names()).toEqual(["one", "two"]);
    expect(history.undoName).toBe("Add 2 takes");
    expect(history.undo().present.takes).toEqual([]);
    expect(told).toEqual([
      "bad.wav was not opened: it ends too early.",
      "2 takes of 4 files; 1 file holds no sound that can be read here.",
    ]);
    expect(went).toEqual(["/take"]);
    expect(history.present.takes[0]).toMatchObject({
      source: "one.wav",
      date: "2001-09-09T01:46:40.000Z",
      origin: "imported",
    });
  });

  test("the same sound is opened once, within a batch and after it; two files of one name stay apart", async () => {
    await openFiles([file("a.wav", "same"), file("b.wav", "same"), file("a.flac", "other")], () => {});
    expect(names()).toEqual(["a", "a.flac"]);
    expect(told[0]).toBe("b.wav holds the same sound as the take a, which is here already.");
    await openFiles([file("c.wav", "same")], () => {});
    expect(names()).toEqual(["a", "a.flac"]);
  });

  test("a song of three hours is refused by its length, before anything of it is decoded", async () => {
    await openFiles([file("long.mp3", "foreign music, an opera")], () => {});
    expect(names()).toEqual([]);
    expect(told).toEqual([
      "long.mp3 was not opened: it is 3 h 0 min long; takes of up to an hour can be opened. Cut it into parts first.",
    ]);
    expect(store).not.toHaveBeenCalled();
  });

  test("what the core doesn't read is given to the browser; what neither reads is told", async () => {
    await openFiles([file("song.mp3", "foreign music")], () => {});
    expect(history.present.takes[0]).toMatchObject({ name: "song", rate: 48000, channels: 2, frames: 20 });
    await openFiles([file("notes.wav", "foreign words")], () => {});
    expect(told.at(-1)).toBe("notes.wav was not opened: it is no WAV.");
  });

  test("cancelling ends the batch and keeps what was opened until then", async () => {
    open.mockImplementationOnce(async () => ({
      ok: true,
      sha: "1".repeat(64),
      rate: 44100,
      channels: 1,
      frames: 5,
      markers: [],
      warnings: [],
      text: "",
      date: "",
    }));
    open.mockImplementationOnce(async () => {
      throw new Cancelled("cancelled");
    });
    await openFiles([file("one.wav", "x"), file("two.wav", "y"), file("three.wav", "z")], () => {});
    expect(names()).toEqual(["one"]);
  });
});
