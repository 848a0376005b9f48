import { beforeEach, expect, jest, test } from "@jest/globals";
import { addUnit, type Edit, type Instrument, newInstrument, newUnit } from "../../core/instrument";

/** An open instrument without storage. */
const open = { instrument: null as Instrument | null, steps: 0 };
jest.unstable_mockModule("./session", () => ({
  session: {
    get instrument() {
      return open.instrument;
    },
    commit: (edit: Edit) => {
      if (open.instrument) open.instrument = edit.apply(open.instrument);
      open.steps++;
    },
  },
}));
const { unitCommands } = await import("./unit-commands");
const { copied, copy } = await import("./clipboard");

const shelf = new Map<string, string>();
Object.defineProperty(globalThis, "localStorage", {
  value: {
    getItem: (key: string) => shelf.get(key) ?? null,
    setItem: (key: string, value: string) => {
      if (value.length > 1000) throw new Error("full");
      shelf.set(key, value);
    },
    removeItem: (key: string) => shelf.delete(key),
  },
});

const lfos = () => open.instrument?.lfos.map((u) => u.name);
const does = (
  list: "lfos" | "envelopes" | "macros",
  id: string | null,
  what: string,
  choose?: (id: string | null) => void,
) => {
  const command = unitCommands(list, id, choose).find((c) => c.id === what);
  const why = command?.why?.() ?? null;
  if (why === null) command?.run();
  return why;
};

beforeEach(() => {
  shelf.clear();
  const lfo = { ...newUnit("lfo", "one", "Wobble"), curve: [{ x: 0, y: 0.5, bend: 0 }] };
  open.instrument = addUnit("lfos", lfo).apply({ ...newInstrument("harp", "Harp"), lfos: [] });
  open.steps = 0;
});

test("a unit is doubled with all that it has, under an id and a name of its own, and is looked at", () => {
  let looked: string | null = null;
  expect(
    does("lfos", "one", "duplicate", (id) => {
      looked = id;
    }),
  ).toBeNull();
  expect(lfos()).toEqual(["Wobble", "Wobble copy"]);
  const [one, two] = open.instrument?.lfos ?? [];
  expect(two).toEqual({ ...one, id: two?.id, name: "Wobble copy" });
  expect([two?.id === one?.id, looked]).toEqual([false, two?.id]);
  expect(open.steps).toBe(1);
});

test("what was copied is pasted where its kind belongs, also in another instrument, and nowhere else", () => {
  expect(does("lfos", "one", "paste")).toMatch(/copied/);
  does("lfos", "one", "copy");
  expect(does("envelopes", null, "paste")).toMatch(/copied/);
  open.instrument = { ...newInstrument("bell", "Bell"), lfos: [] };
  expect(does("lfos", null, "paste")).toBeNull();
  expect(lfos()).toEqual(["Wobble"]);
  does("lfos", null, "paste");
  expect(lfos()).toEqual(["Wobble", "Wobble copy"]);
});

test("without a unit nothing can be copied or removed, and it says why", () => {
  for (const what of ["copy", "duplicate", "remove"]) expect(does("lfos", "gone", what)).toMatch(/select/);
  expect(open.steps).toBe(0);
  does("lfos", "one", "remove");
  expect(lfos()).toEqual([]);
});

test("what is too large for what tabs share can still be pasted here, and isn't mixed up with older things", () => {
  copy({ kind: "face", items: [], pictures: [] });
  const large = { ...newUnit("macro", "m", "Large"), name: "x".repeat(2000) };
  copy({ kind: "macros", units: [large] });
  expect(copied("face")).toBeNull();
  expect(copied("macros")?.units).toEqual([large]);
});

test("nobody else's text is pasted", () => {
  copy({ kind: "macros", units: [] });
  shelf.set("vise-clipboard", "{ not ours");
  expect(copied("macros")?.units).toEqual([]);
  shelf.set("vise-clipboard", '{"kind":"letters"}');
  expect(copied("macros")).toBeNull();
});
