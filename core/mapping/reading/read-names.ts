import { type Column, columnsFor } from "./columns";
import { byEar, judge, noteChoice, type Parts, type Scored, type Sounds } from "./judge";
import type { Role } from "./meanings";
import { PIECE_OPTIONS, type PieceOptions, type TakenName, takeApart } from "./pieces";
import type { NamedSound, Reading } from "./reading";

/** Names that are looked at to find how a set is to be read. */
const SEEN = 300;

/** Whether two columns take the same piece of some name. */
export const overlaps = (a: Column, b: Column): boolean => {
  for (let n = 0; n < a.at.length; n++) {
    const [x, y] = [a.at[n] as number, b.at[n] as number];
    if (x < 0 || y < 0) continue;
    const [from, to] = [a.meanings[n]?.pieces ?? 1, b.meanings[n]?.pieces ?? 1];
    if (x < y + to && y < x + from) return true;
  }
  return false;
};

const best = (columns: readonly Column[], most: number): Column[] =>
  [...columns].sort((a, b) => b.likely * b.coverage - a.likely * a.coverage).slice(0, most);

const apart = (column: Column, others: readonly (Column | null)[]): boolean =>
  others.every((other) => other === null || !overlaps(column, other));

/** Most groups into which words part a set. */
const MOST_GROUPS = 12;

/** Whether words part a set into a few groups of several sounds each; words that differ from name to name are but names. */
function isParting({ distinct, meanings }: Column): boolean {
  if (distinct < 2 || distinct > MOST_GROUPS) return false;
  const counts = new Map<unknown, number>();
  for (const m of meanings) counts.set(m?.value, (counts.get(m?.value) ?? 0) + 1);
  return [...counts.values()].every((count) => count > 1) && meanings.length >= 3 * distinct;
}

/** Microphones and triggers are known by their words alone. */
function sideColumns(names: readonly TakenName[]): Pick<Parts, "microphone" | "trigger"> {
  const [trigger] = best(
    columnsFor(names, "trigger", false).filter(
      (c) => c.meanings.some((m) => m?.value === "noteOff") && c.meanings.some((m) => m?.value !== "noteOff"),
    ),
    1,
  );
  const [microphone] = best(
    columnsFor(names, "microphone", false).filter((c) => c.distinct > 1 && (!trigger || !overlaps(c, trigger))),
    1,
  );
  return { microphone: microphone ?? null, trigger: trigger ?? null };
}

function readAs(
  names: readonly TakenName[],
  sounds: Sounds,
  options: PieceOptions,
): (Scored & { options: PieceOptions })[] {
  const sides = sideColumns(names);
  const others = [sides.microphone, sides.trigger];
  const free = (column: Column): boolean => apart(column, others);
  const germanHints = names.some(({ pieces }) =>
    pieces.some(
      ({ note }) => note && (note.letter === "h" || note.accidental === "is" || /^e?s$/.test(note.accidental)),
    ),
  );
  const notes = [...columnsFor(names, "note", false), ...(germanHints ? columnsFor(names, "note", true) : [])]
    .filter(free)
    .map((c) => noteChoice(c, sounds))
    .sort((a, b) => b.worth - a.worth)
    .slice(0, 8);
  const varied = (role: Role, most: number): Column[] =>
    best(
      columnsFor(names, role, false).filter((c) => free(c) && (c.distinct > 1 || c.coverage < 1)),
      most,
    );
  const strengths: (Column | null)[] = [null, ...varied("strength", 12)];
  const repeats: (Column | null)[] = [null, ...varied("repeat", 12)];
  const groups = varied("group", 12).filter(isParting);
  const found: Scored[] = [];
  for (const note of [...notes, byEar(sounds)])
    for (const strength of strengths) {
      if (strength && !apart(strength, [note.column])) continue;
      for (const repeat of repeats) {
        if (repeat && !apart(repeat, [note.column, strength])) continue;
        found.push(judge(note, { strength, repeat, group: null, ...sides }, sounds));
      }
    }
  found.sort((a, b) => b.score - a.score);
  const more = found
    .slice(0, 6)
    .flatMap((scored) =>
      scored.unique > 0.99
        ? []
        : groups
            .filter((g) => apart(g, [scored.note.column, scored.strength, scored.repeat]))
            .map((group) => judge(scored.note, { ...scored, group }, sounds)),
    );
  return [...found, ...more]
    .sort((a, b) => b.score - a.score)
    .slice(0, 8)
    .map((s) => ({ ...s, options }));
}

/** At most so many of a row, evenly over it. */
function thinned<T>(all: readonly T[], most: number): T[] {
  if (all.length <= most) return [...all];
  return Array.from({ length: most }, (_, i) => all[Math.floor((i * all.length) / most)] as T);
}

const roleText = ({ columns }: Reading): string =>
  Object.values(columns)
    .map((c) => `${c.role} ${c.at.join()}`)
    .join(" ");

/**
 * The ways in which the names of a set can be read, best first, at most three that differ. Each piece of the names is taken for what it may mean; of all
 * arrangements the best gives each sound a place of its own, fills the grid of notes, strengths and repeats, and agrees with what is heard.
 */
export function readNames(sounds: readonly NamedSound[]): Reading[] {
  const seen = thinned(sounds, SEEN);
  const heard: Sounds = { pitches: seen.map((s) => s.pitch), loudness: seen.map((s) => s.loudness) };
  const known = new Set<string>();
  const readings = PIECE_OPTIONS.flatMap((options) => {
    const names = takeApart(
      seen.map((s) => s.path),
      options,
    );
    const mark = JSON.stringify(names.map((n) => n.pieces));
    if (known.has(mark)) return [];
    known.add(mark);
    return readAs(names, heard, options);
  }).sort((a, b) => b.score - a.score);
  const distinct = new Map<string, Reading>();
  for (const { note, strength, repeat, group, microphone, trigger, options, score, levels, falling } of readings) {
    const columns: Partial<Record<Role, Column>> = {};
    for (const c of [note.column, strength, repeat, group, microphone, trigger]) if (c) columns[c.role] = c;
    const reading: Reading = { columns, options, shift: note.shift, agreement: note.agreement, levels, falling, score };
    const mark = roleText(reading);
    if (!distinct.has(mark)) distinct.set(mark, reading);
  }
  return [...distinct.values()].slice(0, 3);
}
