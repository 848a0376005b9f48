import { MANNERS, type Manner, type Meaning, meaningAt, type Role } from "./meanings";
import { matchPattern, type NamePattern } from "./pattern";
import type { Piece, TakenName } from "./pieces";

/** Which piece of a name is meant: by its place in a part of the path, by the word before it, as the first or last of its kind, or where a pattern says. */
export type Selector =
  | { readonly by: "left" | "right"; readonly part: number; readonly place: number }
  | { readonly by: "label"; readonly part: number; readonly word: string }
  | { readonly by: "first" | "last"; readonly part: number | null }
  | { readonly by: "pattern"; readonly pattern: NamePattern };

/** The same piece of every name, taken in one way. */
export interface Column {
  readonly role: Role;
  readonly manner: Manner;
  readonly selector: Selector;
  readonly german: boolean;
  /** Index of the piece in each name; −1 where there is none that says anything. */
  readonly at: Int32Array;
  readonly meanings: readonly (Meaning | null)[];
  /** Share of the names in which it says something, and how likely that is, both 0 to 1. */
  readonly coverage: number;
  readonly likely: number;
  /** How many different things it says. */
  readonly distinct: number;
}

const MOST_PLACES = 14;
const MOST_PARTS = 5;

/** Index of the selected piece; −1 where a name has none, or one that says nothing. */
function select(
  { path, pieces }: TakenName,
  selector: Selector,
  role: Role,
  manner: Manner,
  german: boolean,
): { at: number; meaning: Meaning } | null {
  const meant = (at: number): { at: number; meaning: Meaning } | null => {
    const meaning = meaningAt(pieces, at, role, manner, german);
    return meaning && { at, meaning };
  };
  switch (selector.by) {
    case "left":
    case "right": {
      let first = 0;
      while (first < pieces.length && pieces[first]?.part !== selector.part) first++;
      let end = first;
      while (end < pieces.length && pieces[end]?.part === selector.part) end++;
      const at = selector.by === "left" ? first + selector.place : end - 1 - selector.place;
      return at >= first && at < end ? meant(at) : null;
    }
    case "label": {
      for (let i = 0; i < pieces.length; i++) {
        const piece = pieces[i] as Piece;
        if (piece.part === selector.part && piece.kind === "number" && piece.word === selector.word) return meant(i);
      }
      return null;
    }
    case "pattern": {
      const at = matchPattern(selector.pattern, path, pieces)?.get(role);
      return at === undefined ? null : meant(at);
    }
    default: {
      const forward = selector.by === "first";
      for (let k = 0; k < pieces.length; k++) {
        const i = forward ? k : pieces.length - 1 - k;
        if (selector.part !== null && pieces[i]?.part !== selector.part) continue;
        const found = meant(i);
        if (found && found.meaning.likely >= 0.5) return found;
      }
      return null;
    }
  }
}

/** Takes the pieces of names in one way. */
export function columnOf(
  names: readonly TakenName[],
  role: Role,
  manner: Manner,
  selector: Selector,
  german: boolean,
): Column {
  const at = new Int32Array(names.length).fill(-1);
  const values = new Set<number | string>();
  let covered = 0;
  let likely = 0;
  const meanings = names.map((name, n) => {
    const found = select(name, selector, role, manner, german);
    if (!found) return null;
    at[n] = found.at;
    covered++;
    likely += found.meaning.likely;
    values.add(found.meaning.low === undefined ? found.meaning.value : `${found.meaning.low}-${found.meaning.value}`);
    return found.meaning;
  });
  return {
    ...{ role, manner, selector, german, at, meanings },
    coverage: covered / Math.max(1, names.length),
    likely: likely / Math.max(1, covered),
    distinct: values.size,
  };
}

/** All ways in which a piece can be chosen in some names. */
export function selectorsFor(names: readonly TakenName[]): Selector[] {
  const places = new Map<number, number>();
  const labels = new Map<string, Selector>();
  for (const { pieces } of names) {
    const counts = new Map<number, number>();
    for (const { part, kind, word } of pieces) {
      if (part >= MOST_PARTS) continue;
      counts.set(part, (counts.get(part) ?? 0) + 1);
      if (kind === "number" && word !== "" && labels.size < 24)
        labels.set(`${part} ${word}`, { by: "label", part, word });
    }
    for (const [part, count] of counts) places.set(part, Math.max(places.get(part) ?? 0, count));
  }
  const all: Selector[] = [...labels.values()];
  for (const [part, count] of [...places].sort(([a], [b]) => a - b)) {
    for (let place = 0; place < Math.min(MOST_PLACES, count); place++)
      all.push({ by: "right", part, place }, { by: "left", part, place });
    all.push({ by: "last", part }, { by: "first", part });
  }
  return [...all, { by: "last", part: null }, { by: "first", part: null }];
}

/** Of how many names a role must be told at the least. */
const LEAST: Readonly<Record<Role, number>> = {
  note: 0.5,
  strength: 0.5,
  repeat: 0.2,
  microphone: 0.3,
  trigger: 0.05,
  group: 0.9,
};

/** All columns that may say something of a role, each way of taking the same pieces once. */
export function columnsFor(names: readonly TakenName[], role: Role, german: boolean): Column[] {
  const selectors = selectorsFor(names);
  const known = new Set<string>();
  return MANNERS[role].flatMap((manner) =>
    selectors.flatMap((selector) => {
      const column = columnOf(names, role, manner, selector, german);
      if (column.coverage < LEAST[role]) return [];
      const mark = `${manner} ${column.at.join()}`;
      if (known.has(mark)) return [];
      known.add(mark);
      return [column];
    }),
  );
}
