import { AsyncLocalStorage, AsyncResource } from "node:async_hooks";
import { afterAll, beforeAll, expect, jest, test } from "@jest/globals";
import { seededRandom } from "../../core/audio";
import { changeAbout, type Instrument, newInstrument } from "../../core/instrument";
import { TestBrowser } from "./test-browser";

// Two tabs, failing writes and kills, in whatever order things come: the laws of `storage/library.ts`, tried at random.

/** Which page does what, however it came to it: a page that was killed does nothing more. */
const pages = new AsyncLocalStorage<{ dead: boolean }>();
/** What waits for its turn: one after the other goes on, in any order. */
const waiting: (() => void)[] = [];
let timers: { readonly run: () => void }[] = [];
let full = false;
let random = seededRandom(1);
const chance = (of: number): boolean => random() < of;
const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;

/** Resolves when its turn comes; never for a page that is dead by then. */
const turn = (): Promise<void> => {
  const page = pages.getStore();
  return new Promise((go) => waiting.push(() => page?.dead || go()));
};

class Store {
  readonly items = new Map<string, unknown>();
  async getItem(key: string) {
    await turn();
    return structuredClone(this.items.get(key) ?? null);
  }
  async setItem(key: string, value: unknown) {
    await turn();
    if (full) throw new Error("the disk is full");
    this.items.set(key, structuredClone(value));
  }
  async removeItem(key: string) {
    await turn();
    if (full && chance(0.2)) throw new Error("the disk is broken");
    this.items.delete(key);
  }
  async keys() {
    await turn();
    return [...this.items.keys()];
  }
}
const [instruments, index, settings] = [new Store(), new Store(), new Store()];
jest.unstable_mockModule("../storage/stores", () => ({ instruments, index, settings }));
const library = await import("../storage/library");
jest.unstable_mockModule("../workers/document-worker", () => ({
  documentWorker: () => ({
    loadInstrument: (id: string, repair: boolean) =>
      library
        .loadInstrument(id, repair)
        .catch((error: Error) => ({ id, title: id, message: error.message, faults: [], text: "" })),
  }),
}));
const { Session } = await import("./session");

const plain = { setTimeout: globalThis.setTimeout, clearTimeout: globalThis.clearTimeout };
beforeAll(() => {
  globalThis.setTimeout = ((run: () => void) => {
    const timer = { run: AsyncResource.bind(run) };
    timers.push(timer);
    return timer;
  }) as never;
  globalThis.clearTimeout = ((timer: { run: () => void }) => {
    timers = timers.filter((t) => t !== timer);
  }) as never;
});
afterAll(() => void Object.assign(globalThis, plain));

interface Page {
  readonly life: { dead: boolean };
  readonly session: InstanceType<typeof Session>;
  readonly tab: ReturnType<TestBrowser["tab"]>;
  /** What went wrong that somebody was told of. */
  readonly told: string[];
}

interface Head {
  readonly parts: Readonly<Record<string, string>>;
}
const headOf = (id: string) => instruments.items.get(id) as Head | undefined;
/** The number of the edit that is stored of an instrument. */
function storedEdit(id: string): number {
  const rest = instruments.items.get(headOf(id)?.parts.rest ?? "") as Instrument | undefined;
  return Number(rest?.about.name ?? -1);
}
/** Parts that a head of an instrument or of one of its versions names, and that aren't there. */
function missingParts(id: string): string[] {
  const versions = (instruments.items.get(`${id}/versions`) ?? []) as { head: Head }[];
  const heads = [headOf(id), ...versions.map((v) => v.head)];
  return heads.flatMap((h) => Object.values(h?.parts ?? {})).filter((key) => !instruments.items.has(key));
}

const IDS = ["a", "b"];
const settle = (): Promise<void> => new Promise((go) => setImmediate(go));

test.each(Array.from({ length: 10 }, (_, i) => i + 1))(
  "no finished edit is lost and no named part is missing, whatever comes between what (seed %i, 2,000 steps)",
  async (seed) => {
    random = seededRandom(seed);
    for (const store of [instruments, index, settings]) store.items.clear();
    waiting.length = 0;
    timers = [];
    full = false;
    const browser = new TestBrowser(turn, (listener) => AsyncResource.bind(listener) as typeof listener);
    const open = (id: string | null): Page => {
      const life = { dead: false };
      return pages.run(life, () => {
        const tab = browser.tab();
        const session = new Session(tab);
        const told: string[] = [];
        session.refused = (why) => told.push(why);
        session.lostWork = () => told.push("kept as a copy");
        if (id) void session.open(id).catch((error: Error) => told.push(error.message));
        return { life, session, tab, told };
      });
    };
    const drain = async () => {
      for (let quiet = 0; quiet < 3; ) {
        await settle();
        if (waiting.length > 0) waiting.shift()?.();
        else quiet++;
      }
    };
    const first = open(null);
    for (const id of IDS) {
      pages.run(first.life, () => void first.session.begin({ ...newInstrument(id, "0") }));
      await drain();
    }
    const tabs = [first, open("a")];
    let edits = 0;
    /** The last edit that was said to be saved, by instrument. */
    const finished = new Map(IDS.map((id) => [id, 0]));
    let [kills, refusals, forced] = [0, 0, 0];
    for (let step = 0; step < 2000; step++) {
      const at = Math.floor(random() * tabs.length);
      const page = tabs[at] as Page;
      const { session, told } = page;
      const act = (what: () => unknown) =>
        pages.run(page.life, () => void Promise.resolve(what()).catch((error: Error) => told.push(error.message)));
      const before = told.length;
      if (waiting.length > 0 && chance(0.7)) waiting.splice(Math.floor(random() * waiting.length), 1)[0]?.();
      else if (timers.length > 0 && chance(0.3)) {
        const timer = pick(timers);
        timers = timers.filter((t) => t !== timer);
        timer.run();
      } else {
        const dice = random();
        if (dice < 0.4) act(() => session.commit(changeAbout({ name: String(++edits) })));
        else if (dice < 0.55) act(() => session.save());
        else if (dice < 0.65) act(() => session.keep(`before ${step}`, chance(0.3)));
        else if (dice < 0.72) act(() => session.open(pick(IDS)));
        else if (dice < 0.82) act(() => session.takeOver());
        else if (dice < 0.87)
          act(() =>
            session.alone(async (id) => {
              const [version] = await library.listVersions(id);
              if (version) await library.removeVersion(id, version.id);
            }),
          );
        else if (dice < 0.93) full = !full && chance(0.4);
        else if (dice < 0.96) {
          // The page is killed, whatever it was at, and opened anew.
          page.life.dead = true;
          page.tab.close();
          kills++;
          tabs[at] = open(pick(IDS));
        }
      }
      await settle();
      if (told.length > before) {
        refusals++;
        forced += told.at(-1) === "kept as a copy" ? 1 : 0;
      }
      for (const each of tabs) {
        const { saved, reading, history } = each.session.store.getState();
        const doc = history?.present;
        if (doc && !reading && saved === "saved")
          finished.set(doc.id, Math.max(finished.get(doc.id) ?? 0, Number(doc.about.name)));
      }
      for (const id of IDS) {
        expect(missingParts(id)).toEqual([]);
        expect(storedEdit(id)).toBeGreaterThanOrEqual(finished.get(id) ?? 0);
      }
    }
    expect(kills).toBeGreaterThan(3);
    expect(Math.max(...finished.values())).toBeGreaterThan(20);
    expect(refusals + forced).toBeGreaterThan(0);
    // With room again, everything that a living page has is stored in the end, and nothing is left over.
    full = false;
    for (const { session, life } of tabs) pages.run(life, () => void session.save());
    await drain();
    for (const { session } of tabs) {
      const { reading, history, saved } = session.store.getState();
      if (!history || reading) continue;
      expect(saved).toBe("saved");
      expect(storedEdit(history.present.id)).toBe(Number(history.present.about.name));
    }
  },
);
