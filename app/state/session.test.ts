import { afterEach, beforeEach, describe, expect, jest, test } from "@jest/globals";
import { changeAbout, changeRules, type Instrument, newInstrument, setParam } from "../../core/instrument";
import { newGesture } from "./gesture";
import { TestBrowser } from "./test-browser";

/** Storage that can be made to fail, in place of the browser's. */
const stored = new Map<string, Instrument>();
const kept = new Map<string, unknown>();
let full = false;
/** Milliseconds that storing takes. */
let takes = 0;
/** How often each was written. */
const writes = new Map<string, number>();

const versions: string[] = [];
let broken: string | null = null;
/** Loading waits for these, by id. */
const slow = new Map<string, Promise<void>>();
jest.unstable_mockModule("../storage/library", () => ({
  saveInstrument: async (document: Instrument) => {
    writes.set(document.id, (writes.get(document.id) ?? 0) + 1);
    if (full) throw new Error("the disk is full");
    if (takes > 0) await new Promise((resolve) => setTimeout(resolve, takes));
    stored.set(document.id, document);
    return { document, head: { changed: 0, parts: {} } };
  },
  sweepParts: async () => {},
  keepVersion: async (id: string, name: string) => versions.push(`${id}: ${name}`),
}));
jest.unstable_mockModule("../workers/document-worker", () => ({
  documentWorker: () => ({
    loadInstrument: async (id: string, repair: boolean) => {
      await slow.get(id);
      if (id === broken && !repair) return { id, title: "Broken", message: "can't be read", faults: [], text: "" };
      const instrument = stored.get(id);
      return instrument ? { instrument, faults: [], saved: null } : null;
    },
  }),
}));
jest.unstable_mockModule("../storage/stores", () => ({
  settings: {
    getItem: async (key: string) => kept.get(key) ?? null,
    setItem: async (key: string, value: unknown) => kept.set(key, value),
  },
}));
const real = await import("./session");

/** The sessions of the test that runs. */
const sessions: Session[] = [];
class Session extends real.Session {
  constructor(browser = new TestBrowser()) {
    super(browser.tab());
    sessions.push(this);
  }
}

// What a test leaves unsaved would be saved a second later, into the middle of another.
afterEach(async () => {
  jest.useRealTimers();
  full = false;
  for (const session of sessions.splice(0))
    await Promise.race([session.save().catch(() => {}), new Promise((resolve) => setTimeout(resolve, 50))]);
});

beforeEach(() => {
  stored.clear();
  kept.clear();
  full = false;
  broken = null;
  slow.clear();
  versions.length = 0;
  writes.clear();
  jest.useRealTimers();
});

const named = (name: string) => changeAbout({ name });

describe("the open instrument", () => {
  test("is stored within a second of an edit, many edits by one write", async () => {
    jest.useFakeTimers();
    const session = new Session();
    await session.begin(newInstrument("one", "One"));
    writes.clear();
    for (let i = 0; i < 30; i++) session.commit(named(`name ${i}`));
    expect(session.store.getState().saved).toBe("saving");
    await jest.advanceTimersByTimeAsync(900);
    expect(stored.get("one")?.about.name).toBe("name 29");
    expect(session.store.getState().saved).toBe("saved");
    expect(writes.get("one")).toBeLessThanOrEqual(3);
  });

  test("while something is dragged it is stored about once a second, and soon after it was let go, also where storing takes longer than a move", async () => {
    jest.useFakeTimers();
    const session = new Session();
    await session.begin(newInstrument("one", "One"));
    writes.clear();
    takes = 40;
    const drag = newGesture();
    for (let i = 1; i <= 190; i++) {
      session.commit({ ...named(`name ${i}`), merge: "name" }, drag);
      await jest.advanceTimersByTimeAsync(16);
      const [, behind] = /name (\d+)/.exec(stored.get("one")?.about.name ?? "") ?? [];
      if (i > 65) expect(i - Number(behind)).toBeLessThanOrEqual(65);
    }
    expect(writes.get("one")).toBeLessThanOrEqual(4);
    session.rest();
    await jest.advanceTimersByTimeAsync(200);
    takes = 0;
    expect([stored.get("one")?.about.name, session.store.getState().saved]).toEqual(["name 190", "saved"]);
  });

  test("turns and key presses are one step until there is a pause; a drag is one however long it takes", async () => {
    jest.useFakeTimers();
    const session = new Session();
    const start = newInstrument("one", "One");
    await session.begin(start);
    const turn = (value: number, gesture: string) =>
      session.commit(setParam(session.instrument ?? start, "layers/main/strip/pan", value), gesture);
    const pan = () => session.instrument?.layers[0]?.strip.params.pan;
    const steps = () => {
      let count = 0;
      for (let h = session.store.getState().history; h?.undoName; h = h.undo()) count++;
      return count;
    };
    for (let i = 1; i <= 5; i++) {
      turn(i / 10, "wheel");
      await jest.advanceTimersByTimeAsync(300);
    }
    expect(steps()).toBe(1);
    await jest.advanceTimersByTimeAsync(1500);
    turn(0.6, "wheel");
    turn(0.7, "keys");
    expect(steps()).toBe(3);
    const drag = newGesture();
    turn(0.8, drag);
    await jest.advanceTimersByTimeAsync(5000);
    turn(0.9, drag);
    expect(steps()).toBe(4);
    // Given up, it leaves nothing behind; a gesture that is over is not given up.
    session.abandon(drag);
    expect([steps(), pan()]).toEqual([3, 0.7]);
    // What could be done again before the drag can be done again after it.
    session.undo();
    const again = newGesture();
    turn(0.2, again);
    session.abandon(again);
    session.redo();
    expect(pan()).toBe(0.7);
    session.abandon(drag);
    expect([steps(), pan()]).toEqual([3, 0.7]);
  });

  test("undo of what was done last says so once it isn't that any more", async () => {
    const session = new Session();
    await session.begin(newInstrument("one", "One"));
    const said: string[] = [];
    session.refused = (why) => said.push(why);
    session.commit(named("first"));
    const undo = session.undoAction();
    session.undo();
    session.redo();
    undo.run();
    expect(session.instrument?.about.name).toBe("One");
    session.commit(named("second"));
    const late = session.undoAction();
    expect(late.still()).toBe(true);
    session.commit(changeRules({ on: true }));
    expect(late.still()).toBe(false);
    late.run();
    expect(session.instrument?.about.name).toBe("second");
    expect(said).toHaveLength(1);
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

  test("a full disk is tried again by itself, with growing pauses, until it is no longer full", async () => {
    jest.useFakeTimers();
    const session = new Session();
    await session.begin(newInstrument("full", "One"));
    full = true;
    session.commit(named("Later"));
    await jest.advanceTimersByTimeAsync(500);
    expect(session.store.getState()).toMatchObject({ saved: "failed", failure: "the disk is full" });
    writes.clear();
    await jest.advanceTimersByTimeAsync(31000);
    expect(writes.get("full")).toBe(5);
    full = false;
    await jest.advanceTimersByTimeAsync(64000);
    expect(session.store.getState()).toMatchObject({ saved: "saved", failure: null });
    expect(stored.get("full")?.about.name).toBe("Later");
  });

  test("a drag is stored when it ends, or after a second, not at every move", async () => {
    jest.useFakeTimers();
    const session = new Session();
    await session.begin(newInstrument("dragged", "One"));
    writes.clear();
    for (let i = 0; i < 50; i++) {
      session.commit(named(`name ${i}`), "drag");
      await jest.advanceTimersByTimeAsync(16);
    }
    expect(writes.get("dragged")).toBeUndefined();
    session.rest();
    await jest.advanceTimersByTimeAsync(250);
    expect([writes.get("dragged"), stored.get("dragged")?.about.name]).toEqual([1, "name 49"]);
  });

  test("opening another never drops work that could not be saved, unless that is asked for", async () => {
    const session = new Session();
    await session.begin(newInstrument("two", "Two"));
    await session.begin(newInstrument("one", "One"));
    full = true;
    session.commit(named("Unsaved"));
    await expect(session.open("two")).rejects.toBeInstanceOf(real.Unsaved);
    await expect(session.begin(newInstrument("three", "Three"))).rejects.toBeInstanceOf(real.Unsaved);
    expect(session.instrument?.about.name).toBe("Unsaved");
    expect(await session.open("two", { abandon: true })).toBe(true);
    expect(session.instrument?.id).toBe("two");
  });

  test("what is edited while another is being opened is stored with what is left", async () => {
    const session = new Session();
    for (const id of ["two", "one"]) await session.begin(newInstrument(id, id));
    let go: () => void = () => {};
    slow.set(
      "two",
      new Promise<void>((resolve) => {
        go = resolve;
      }),
    );
    const opening = session.open("two");
    session.commit(named("At the last moment"));
    go();
    expect(await opening).toBe(true);
    expect(stored.get("one")?.about.name).toBe("At the last moment");
    expect(session.instrument?.id).toBe("two");
  });

  test("two opens in a row end in the second, however slow the first is", async () => {
    const session = new Session();
    for (const id of ["one", "two", "three"]) await session.begin(newInstrument(id, id));
    let go: () => void = () => {};
    slow.set(
      "one",
      new Promise<void>((resolve) => {
        go = resolve;
      }),
    );
    const first = session.open("one");
    const second = session.open("two");
    go();
    expect([await first, await second]).toEqual([false, true]);
    expect(session.instrument?.id).toBe("two");
    expect(await session.lastOpen()).toBe("two");
  });

  test("one that can only be opened with a loss is refused until that is allowed; what is open stays", async () => {
    const session = new Session();
    await session.begin(newInstrument("bad", "Bad"));
    await session.begin(newInstrument("one", "One"));
    broken = "bad";
    await expect(session.open("bad")).rejects.toBeInstanceOf(real.Broken);
    expect(session.instrument?.id).toBe("one");
    expect(await session.open("bad", { repair: true })).toBe(true);
    expect(session.instrument?.id).toBe("bad");
  });

  test("an edit that can't be settled says why and changes nothing", async () => {
    const session = new Session();
    const why: string[] = [];
    session.refused = (text) => why.push(text);
    await session.begin(newInstrument("one", "One"));
    const { history } = session.store.getState();
    session.commit(changeRules({ seed: Number.NaN }));
    expect(session.store.getState().history).toBe(history);
    expect(why).toEqual(["Change rules: rules.seed can't be NaN."]);
  });

  test("a version is looked at without changing anything; meanwhile edits are refused", async () => {
    const session = new Session();
    const one = newInstrument("one", "One");
    await session.begin(one);
    session.look({ name: "old", instrument: newInstrument("one", "Old") });
    session.commit(named("Changed"));
    session.undo();
    expect(session.instrument).toEqual(one);
    session.look(null);
    session.commit(named("Changed"));
    expect(session.instrument?.about.name).toBe("Changed");
  });

  test("a version is kept by itself when an instrument is opened", async () => {
    const session = new Session();
    await session.begin(newInstrument("one", "One"));
    await session.begin(newInstrument("two", "Two"));
    await session.open("one");
    expect(versions).toEqual(["one: when it was opened"]);
  });

  test("an edit right after a version is kept is stored as well, without another edit", async () => {
    jest.useFakeTimers();
    const session = new Session();
    await session.begin(newInstrument("one", "One"));
    session.keepBefore("placing");
    session.commit(named("Placed"));
    await jest.advanceTimersByTimeAsync(1000);
    expect(session.store.getState().saved).toBe("saved");
    expect(stored.get("one")?.about.name).toBe("Placed");
    expect(versions).toEqual(["one: before placing"]);
  });

  test("a second tab reads what the first writes, and can take it over; the first then reads", async () => {
    const browser = new TestBrowser();
    const [first, second] = [new Session(browser), new Session(browser)];
    await first.begin(newInstrument("one", "One"));
    await second.open("one");
    expect(second.store.getState().reading).toBe(true);
    second.commit(named("Overwritten"));
    expect(second.instrument?.about.name).toBe("One");
    first.commit(named("By the first"));
    await first.save();
    await second.save();
    expect(second.instrument?.about.name).toBe("By the first");
    first.commit(named("At the last moment"));
    await second.takeOver();
    expect(second.store.getState().reading).toBe(false);
    expect(second.instrument?.about.name).toBe("At the last moment");
    expect(first.store.getState().reading).toBe(true);
    second.commit(named("By the second"));
    await second.save();
    first.commit(named("Undone"));
    await first.save();
    expect(stored.get("one")?.about.name).toBe("By the second");
    expect(first.instrument?.about.name).toBe("By the second");
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
