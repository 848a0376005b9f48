import { beforeEach, describe, expect, jest, test } from "@jest/globals";
import { changeAbout, changeRules, type Edit, type Instrument, newInstrument } from "../../core/instrument";
import { TestBrowser } from "./test-browser";

/** Storage that can be full, in place of the browser's. */
const stored = new Map<string, Instrument>();
let full = false;
const versions: string[] = [];
jest.unstable_mockModule("../storage/library", () => ({
  saveInstrument: async (document: Instrument) => {
    if (full) throw new Error("the disk is full");
    stored.set(document.id, document);
    return { document, head: { changed: 0, parts: {} } };
  },
  sweepParts: async () => {},
  isStored: async (id: string) => stored.has(id),
  keepVersion: async (id: string, name: string) => versions.push(`${id}: ${name}`),
}));
jest.unstable_mockModule("../workers/document-worker", () => ({
  documentWorker: () => ({
    loadInstrument: async (id: string) => {
      const instrument = stored.get(id);
      return instrument ? { instrument, faults: [], saved: null } : null;
    },
  }),
}));
jest.unstable_mockModule("../storage/stores", () => ({
  settings: { getItem: async () => null, setItem: async () => {} },
}));
jest.unstable_mockModule("../storage/instrument-locks", () => ({
  tabs: {
    hold: async () => ({ release: () => {}, lost: new Promise(() => {}) }),
    listen: () => () => {},
    say: () => {},
  },
}));
interface Told {
  readonly kind: string;
  readonly text: string;
  readonly action: { readonly label: string; readonly run: () => void } | null;
}
const told: Told[] = [];
jest.unstable_mockModule("./notices", () => ({
  tell: (kind: string, text: string, action: Told["action"] = null) => told.push({ kind, text, action }),
}));
const real = await import("./session");
let session: InstanceType<typeof real.Session>;
/** Whichever tab’s session it is just now. */
const current = new Proxy({} as typeof session, {
  get: (_, name) => {
    const value: unknown = Reflect.get(session, name, session);
    return typeof value === "function" ? value.bind(session) : value;
  },
});
jest.unstable_mockModule("./session", () => ({ ...real, session: current }));
jest.unstable_mockModule("./open-instrument", () => ({ openStored: (id: string) => session.open(id) }));
const { Errand } = await import("./errand");

let browser: TestBrowser;
beforeEach(async () => {
  browser = new TestBrowser();
  full = false;
  stored.clear();
  told.length = 0;
  versions.length = 0;
  session = new real.Session(browser.tab());
  for (const id of ["other", "mine"]) await session.begin(newInstrument(id, id));
});

const made: Edit = changeAbout({ maker: "the job" });
const begin = () => {
  const errand = Errand.begin("do it");
  if (!errand) throw new Error("it didn't begin");
  return errand;
};
const makers = () => [
  session.instrument?.about.maker,
  stored.get("mine")?.about.maker,
  stored.get("other")?.about.maker,
];

describe("work that takes time belongs to the instrument in which it was begun", () => {
  test("which is still open: the edit is made there, once, and can be undone", async () => {
    const errand = begin();
    session.commit(changeRules({ seed: 7 }));
    expect(await errand.deliver(made, "24 samples", "bringing in")).toBe("open");
    expect([session.instrument?.about.maker, session.instrument?.rules.seed]).toEqual(["the job", 7]);
    session.undo();
    expect([session.instrument?.about.maker, session.instrument?.rules.seed]).toEqual(["", 7]);
    await session.save();
    expect(versions).toContain("mine: before bringing in");
    expect(told).toEqual([]);
  });

  test("another one was opened meanwhile: it gets nothing, the stored one all, and it is told with a way there", async () => {
    const errand = begin();
    await session.open("other");
    expect(await errand.deliver(made, "24 samples", "bringing in")).toBe("stored");
    expect(makers()).toEqual(["", "the job", ""]);
    expect(told).toMatchObject([{ kind: "good", text: "24 samples: in “mine”, for which it was begun." }]);
    expect(versions).toContain("mine: before bringing in");
    told[0]?.action?.run();
    await session.save();
    expect(session.instrument?.about).toMatchObject({ name: "mine", maker: "the job" });
  });

  test("another one is being opened as it ends: it still gets where it belongs", async () => {
    const errand = begin();
    const opening = session.open("other");
    const delivered = errand.deliver(made, "24 samples");
    await opening;
    expect(await delivered).toBe("stored");
    expect(makers()).toEqual(["", "the job", ""]);
  });

  test("a version is looked at: the present state gets it, and the look goes on", async () => {
    const errand = begin();
    session.look({ name: "old", instrument: newInstrument("mine", "old") });
    expect(await errand.deliver(made, "24 samples")).toBe("open");
    expect(session.instrument?.about.maker).toBe("the job");
    expect(session.store.getState().looking?.name).toBe("old");
  });

  test("another tab has taken it over: nothing is lost, and it is put in once it is had again", async () => {
    const errand = begin();
    const second = new real.Session(browser.tab());
    await second.open("mine");
    await second.takeOver();
    expect(session.store.getState().reading).toBe(true);
    expect(await errand.deliver(made, "24 samples")).toBe("waiting");
    expect(told.at(-1)).toMatchObject({ kind: "error", text: expect.stringContaining("another tab has “mine” open") });
    await session.takeOver();
    told.at(-1)?.action?.run();
    await session.save();
    expect(session.instrument?.about.maker).toBe("the job");
  });

  test("storage is full at its end: what is stored is as it was, and it can be tried again", async () => {
    const errand = begin();
    await session.open("other");
    full = true;
    expect(await errand.deliver(made, "24 samples")).toBe("waiting");
    expect(told.at(-1)?.text).toContain("since the disk is full");
    expect(makers()).toEqual(["", "", ""]);
    full = false;
    told.at(-1)?.action?.run();
    await session.save();
    expect(makers()).toEqual(["", "the job", ""]);
  });

  test("it was deleted meanwhile: that is told, and nothing else gets it", async () => {
    const errand = begin();
    await session.open("other");
    stored.delete("mine");
    expect(await errand.deliver(made, "24 samples")).toBe("waiting");
    expect(told.at(-1)?.text).toContain("isn’t in this browser any more");
    expect(makers()).toEqual(["", undefined, ""]);
  });

  test("it can’t be what the document allows: that is told with the reason, and nothing changes", async () => {
    const errand = begin();
    expect(await errand.deliver(changeRules({ seed: Number.NaN }), "A seed")).toBe("waiting");
    expect(told.at(-1)?.text).toMatch(/rules.seed can't be NaN/);
    expect(session.instrument?.rules.seed).toBe(1);
  });

  test("in a tab that only reads it isn't begun, and why is told", async () => {
    const second = new real.Session(browser.tab());
    await second.open("mine");
    session = second;
    expect(Errand.begin("bring samples in")).toBeNull();
    expect(told.at(-1)?.text).toMatch(/take it over .* to bring samples in here/);
  });
});
