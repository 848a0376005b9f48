import { byIdentity } from "./by-identity";
import type { Instrument, Layer, Unit } from "./instrument";

/** Lists of units that the instrument has as a whole. */
type WholeList = "envelopes" | "lfos" | "macros" | "mics" | "sets" | "effects";

/** Where a list of units stands: one of the whole instrument's, a layer's stages or inserts, or what stands in a send. */
export type UnitList = WholeList | `layers/${string}/stages` | `layers/${string}/inserts` | `sends/${string}`;

const WHOLE: readonly WholeList[] = ["envelopes", "lfos", "macros", "mics", "sets", "effects"];

/** Every list of units of a document, by its address, in the order in which it is heard or shown. */
const listsOf = byIdentity(
  (doc: Instrument): ReadonlyMap<string, readonly Unit[]> =>
    new Map<string, readonly Unit[]>([
      ...doc.layers.flatMap(({ id, stages, inserts }): [string, readonly Unit[]][] => [
        [`layers/${id}/stages`, stages],
        [`layers/${id}/inserts`, inserts],
      ]),
      ...doc.sends.map(({ id, units }): [string, readonly Unit[]] => [`sends/${id}`, units]),
      ...WHOLE.map((list): [string, readonly Unit[]] => [list, doc[list]]),
    ]),
);

/** The units of a list; null where there is no such list. */
export const unitsOf = (doc: Instrument, list: string): readonly Unit[] | null => listsOf(doc).get(list) ?? null;

/** Whether a name is that of a list of units, whatever is in a document. */
export const isUnitList = (name: string): name is UnitList =>
  (WHOLE as readonly string[]).includes(name) || /^layers\/[^/]+\/(stages|inserts)$|^sends\/[^/]+$/.test(name);

/** The document with a list of units made another; misuse (no such list) throws RangeError. */
export function withUnits(
  doc: Instrument,
  list: string,
  change: (units: readonly Unit[]) => readonly Unit[],
): Instrument {
  const units = unitsOf(doc, list);
  if (!units) throw new RangeError(`there is no list of units at ${list}`);
  const [head = "", id, part] = list.split("/");
  if (head === "layers") {
    const place = part as "stages" | "inserts";
    return {
      ...doc,
      layers: doc.layers.map((l): Layer => (l.id === id ? { ...l, [place]: change(units) } : l)),
    };
  }
  if (head === "sends")
    return { ...doc, sends: doc.sends.map((s) => (s.id === id ? { ...s, units: change(units) } : s)) };
  return { ...doc, [head]: change(units) };
}

/** Every unit that stands on a bus: the layers' inserts, what is in the sends, and the whole's chain, in this order. */
export const busUnits = byIdentity((doc: Instrument): readonly { readonly list: string; readonly unit: Unit }[] =>
  [...listsOf(doc)]
    .filter(([list]) => list === "effects" || list.startsWith("sends/") || list.endsWith("/inserts"))
    .flatMap(([list, units]) => units.map((unit) => ({ list, unit }))),
);

/** The content of the sounds that units on buses use, such as impulses. */
export const assetsOf = (doc: Instrument): string[] => [
  ...new Set(busUnits(doc).flatMap(({ unit }) => unit.sample ?? [])),
];
