import { beforeEach, describe, expect, jest, test } from "@jest/globals";
import { changeAbout, type Instrument, newInstrument, setParam } from "../../core/instrument";

/** Storage that can be made to fail, in place of the browser's. */
const stored = new Map<string, Instrument>();
const kept = new Map<string, unknown>();
let full = false;
let writes = 0;

jest.unstable_mockModule("../storage/library", () => ({
  saveInstrument: async (document: Instrument) => {
    writes++;
    if (full) throw new Error("the disk is full");
    stored.set(document.id, document);
  },
}));
jest.unstable_mockModule("../workers/document-worker", () => ({
  documentWorker: () => ({ loadInstrument: async (id: string) => stored.get(id) ?? null }),
}));
jest.unstable_mockModule("../storage/stores", () => ({
  settings: {
    getItem: async (key: string) => kept.get(key) ?? null,
    setItem: async (key: string, value: unknown) => kept.set(key, value),
  },
}));
const { Session } = await import("./session");

beforeEach(() => {
  stored.clear();
  kept.clear();
  full = false;
  writes = 0;
  jest.useRealTimers();
});

const named = (name: string) => changeAbout({ name });

describe("the open instrument", () => {
  test("is stored within a second of an edit, many edits by one write", async () => {
    jest.useFakeTimers();
    const session = new Session();
    await session.begin(newInstrument("one", "One"));
    writes = 0;
    for (let i = 0; i < 30; i++) session.commit(named(`name ${i}`));
    expect(session.store.getState().saved).toBe("saving");
    await jest.advanceTimersByTimeAsync(900);
    expect(stored.get("one")?.about.name).toBe("name 29");
    expect(session.store.getState().saved).toBe("saved");
    expect(writes).toBeLessThanOrEqual(3);
  });

  test("edits that go on and on do not put the saving off", async () => {
    jest.useFakeTimers();
    const session = new Session();
    await session.begin(newInstrument("one", "One"));
    for (let i = 0; i < 20; i++) {
      session.commit(named(`name ${i}`), "typing");
      await jest.advanceTimersByTimeAsync(100);
    }
    expect(Number(stored.get("one")?.about.name.split(" ")[1])).toBeGreaterThanOrEqual(10);
  });

  test("a full disk is told, what was made stays, and the next edit tries again", async () => {
    const session = new Session();
    await session.begin(newInstrument("one", "One"));
    full = true;
    session.commit(named("Unsaved"));
    await session.save();
    expect(session.store.getState()).toMatchObject({ saved: "failed", failure: "the disk is full" });
    expect(session.instrument?.about.name).toBe("Unsaved");
    full = false;
    session.commit(named("Saved"));
    await session.save();
    expect(session.store.getState()).toMatchObject({ saved: "saved", failure: null });
    expect(stored.get("one")?.about.name).toBe("Saved");
  });

  test("undo and redo are stored too; an edit without effect is none", async () => {
    const session = new Session();
    const doc = newInstrument("one", "One");
    await session.begin(doc);
    session.commit(setParam(doc, "play/voices", 8));
    session.undo();
    await session.save();
    expect(stored.get("one")).toEqual(doc);
    session.redo();
    await session.save();
    expect(stored.get("one")?.play.params.voices).toBe(8);
    const { history } = session.store.getState();
    session.commit({ name: "Nothing", apply: (d) => d });
    expect(session.store.getState().history).toBe(history);
  });

  test("opening another stores the one before, and remembers which is open", async () => {
    const session = new Session();
    await session.begin(newInstrument("one", "One"));
    session.commit(named("One, changed"));
    await session.begin(newInstrument("two", "Two"));
    expect(stored.get("one")?.about.name).toBe("One, changed");
    expect(await session.lastOpen()).toBe("two");
    expect(await session.open("one")).toBe(true);
    expect(session.instrument?.about.name).toBe("One, changed");
    expect(session.store.getState().history?.undoName).toBeNull();
    expect(await session.open("gone")).toBe(false);
    expect(session.instrument?.id).toBe("one");
  });
});
