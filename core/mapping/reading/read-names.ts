import { type Column, columnOf, columnsFor } from "./columns";
import type { Role } from "./meanings";
import { type Piece, type PieceOptions, piecesOf } from "./pieces";

/** A sound with the path of its file (`/` parts folders, without an ending) and what was measured of it. */
export interface NamedSound {
  readonly path: string;
  /** MIDI note with fraction; null where no pitch is sure. */
  readonly pitch: number | null;
  /** In LUFS. */
  readonly loudness: number;
}

/** What a name says of its sound; null where it says nothing. */
export interface NameReading {
  readonly note: number | null;
  /** Comparable among the names of one reading: the harder, the more. */
  readonly strength: number | null;
  /** Velocities that the name gives itself. */
  readonly velocities: { readonly low: number | null; readonly high: number } | null;
  readonly repeat: number | null;
  readonly microphone: string | null;
  readonly trigger: "press" | "release" | null;
  readonly group: string | null;
}

/** A piece of a name with what it was taken for; null: it means nothing. */
export interface ReadPiece {
  readonly start: number;
  readonly end: number;
  readonly role: Role | null;
}

/** One way in which all names of a set can be read. */
export interface Reading {
  readonly columns: Readonly<Partial<Record<Role, Column>>>;
  readonly options: PieceOptions;
  /** Semitones between what notes are called and what they are here (C4 is 60): −12, 0, 12 …; 0 where notes are numbers or frequencies. */
  readonly shift: number;
  /** Whether the least number is the hardest strength. */
  readonly falling: boolean;
  /** Of the sounds whose pitch is known, the share that are as their names say; null where there are none. */
  readonly agreement: number | null;
  /** Share of the pairs of strengths of which the harder is louder, less the share where it is softer; null where no strength is told. */
  readonly levels: number | null;
  readonly score: number;
}

/** How far a sound may be off its note and still agree, in semitones. */
const NEAR = 0.6;
/** Names that are looked at to find how a set is to be read. */
const SEEN = 300;

interface Sounds {
  readonly pitches: readonly (number | null)[];
  readonly loudness: readonly number[];
}

/** A column of notes with what the sounds say of it. */
interface NoteChoice {
  readonly column: Column | null;
  readonly notes: readonly (number | null)[];
  readonly shift: number;
  readonly agreement: number | null;
  readonly worth: number;
}

const distanceTo = (note: number, pitch: number): number => Math.abs(note - pitch);

/** The multiple of an octave by which most names and sounds are apart. */
function usualShift(values: readonly (number | null)[], pitches: readonly (number | null)[]): number {
  const votes = new Map<number, number>();
  values.forEach((value, n) => {
    const pitch = pitches[n] ?? null;
    if (value === null || pitch === null) return;
    const octaves = Math.round((pitch - value) / 12);
    if (Math.abs(octaves) > 2 || distanceTo(value + octaves * 12, pitch) > NEAR) return;
    votes.set(octaves * 12, (votes.get(octaves * 12) ?? 0) + 1);
  });
  const [best] = [...votes].sort(([a, x], [b, y]) => y - x || Math.abs(a) - Math.abs(b));
  return best?.[0] ?? 0;
}

/** The note of a class that is nearest to a pitch; in the middle of the keys where there is none. */
const nearestOf = (step: number, pitch: number | null): number =>
  pitch === null ? 60 + step : step + 12 * Math.round((pitch - step) / 12);

function noteChoice(column: Column, { pitches }: Sounds): NoteChoice {
  const values = column.meanings.map((m) => (m === null ? null : (m.value as number)));
  const isClass = column.manner === "class";
  const shift = column.manner === "note" || column.manner === "midi" ? usualShift(values, pitches) : 0;
  const notes = values.map((value, n) => {
    if (value === null) return null;
    const note = isClass ? nearestOf(value, pitches[n] ?? null) : Math.round(value) + shift;
    return note >= 0 && note <= 127 ? note : null;
  });
  let told = 0;
  let agreeing = 0;
  let known = 0;
  notes.forEach((note, n) => {
    if (note === null) return;
    known++;
    const pitch = pitches[n] ?? null;
    if (pitch === null) return;
    told++;
    if (distanceTo(note, pitch) <= NEAR) agreeing++;
  });
  const agreement = told > 0 ? agreeing / told : null;
  const coverage = known / Math.max(1, notes.length);
  // Numbers that are shifted by octaves are seldom notes.
  const likely = column.likely * (column.manner === "midi" && shift !== 0 ? 0.7 : 1);
  const worth = coverage * (3 * believable(agreement, told) + 0.6 * likely);
  return { column, notes, shift, agreement, worth };
}

/** An agreement of few sounds says little; 0.5 is what nothing says. */
function believable(agreement: number | null, told: number): number {
  if (agreement === null) return 0.6;
  const weight = told / (told + 2);
  return weight * agreement + (1 - weight) * 0.6;
}

/** Notes by what is heard alone. */
function byEar({ pitches }: Sounds): NoteChoice {
  const notes = pitches.map((p) => (p === null ? null : Math.round(p)));
  const coverage = notes.filter((n) => n !== null).length / Math.max(1, notes.length);
  return { column: null, notes, shift: 0, agreement: null, worth: 1.7 * coverage };
}

const overlaps = (a: Column, b: Column): boolean => {
  for (let n = 0; n < a.at.length; n++) {
    const [x, y] = [a.at[n] as number, b.at[n] as number];
    if (x < 0 || y < 0) continue;
    const [from, to] = [a.meanings[n]?.pieces ?? 1, b.meanings[n]?.pieces ?? 1];
    if (x < y + to && y < x + from) return true;
  }
  return false;
};

const valuesOf = (column: Column | null): readonly (number | string | null)[] | null =>
  column?.meanings.map((m) => m?.value ?? null) ?? null;

/** How surely a harder strength is louder: pairs of strengths of one note for which it is, less those for which it isn't, over all; null where there are none. */
function concordance(
  values: readonly (number | string | null)[],
  keys: readonly string[],
  loudness: readonly number[],
): number | null {
  const cells = new Map<string, Map<number, { sum: number; count: number }>>();
  values.forEach((value, n) => {
    if (typeof value !== "number") return;
    const key = keys[n] as string;
    const cell = cells.get(key) ?? new Map<number, { sum: number; count: number }>();
    cells.set(key, cell);
    const mean = cell.get(value) ?? { sum: 0, count: 0 };
    mean.sum += loudness[n] as number;
    mean.count++;
    cell.set(value, mean);
  });
  let pairs = 0;
  let rising = 0;
  for (const cell of cells.values()) {
    const means = [...cell].sort(([a], [b]) => a - b).map(([, m]) => m.sum / m.count);
    for (let i = 1; i < means.length; i++) {
      const step = (means[i] as number) - (means[i - 1] as number);
      pairs++;
      rising += step > 0.5 ? 1 : step < -0.5 ? -1 : 0;
    }
  }
  return pairs === 0 ? null : rising / pairs;
}

/** The rank of each value among those of its key, from 1; what says nothing comes first. */
function ranks(values: readonly (number | string | null)[], keys: readonly string[]): number[] {
  const cells = new Map<string, Set<number | string>>();
  values.forEach((value, n) => {
    const key = keys[n] as string;
    cells.set(key, (cells.get(key) ?? new Set()).add(value ?? -1));
  });
  const places = new Map<string, Map<number | string, number>>();
  for (const [key, set] of cells)
    places.set(key, new Map([...set].sort((a, b) => Number(a) - Number(b)).map((v, i) => [v, i + 1])));
  return values.map((value, n) => places.get(keys[n] as string)?.get(value ?? -1) ?? 1);
}

interface Parts {
  readonly strength: Column | null;
  readonly repeat: Column | null;
  readonly group: Column | null;
  readonly microphone: Column | null;
  readonly trigger: Column | null;
}

interface Scored extends Parts {
  readonly note: NoteChoice;
  readonly score: number;
  readonly levels: number | null;
  readonly falling: boolean;
  readonly unique: number;
}

function judge(note: NoteChoice, parts: Parts, { loudness }: Sounds): Scored {
  const { strength, repeat, group, microphone, trigger } = parts;
  const count = loudness.length;
  const sides = [valuesOf(group), valuesOf(microphone), valuesOf(trigger)];
  const places = note.notes.map((n, i) => `${n ?? "-"}|${sides.map((s) => s?.[i] ?? "").join("|")}`);
  const strengths = valuesOf(strength);
  const levels = strengths && concordance(strengths, places, loudness);
  const falling = strength?.manner === "top" && levels !== null && levels < 0;
  const cells = places.map((p, i) => `${p}|${strengths?.[i] ?? ""}`);
  const repeats = repeat ? ranks(valuesOf(repeat) ?? [], cells) : null;
  const seen = new Set<string>();
  for (let i = 0; i < count; i++) seen.add(`${cells[i]}|${repeats?.[i] ?? ""}`);
  const unique = seen.size / Math.max(1, count);
  const distinct = (values: readonly unknown[] | null): number => (values ? Math.max(1, new Set(values).size) : 1);
  const grid =
    distinct(note.notes) *
    distinct(strengths) *
    distinct(repeats) *
    sides.reduce((product, s) => product * distinct(s), 1);
  const fill = Math.min(1, count / grid);
  // Words go up by their meaning; numbers may go down, but seldom do.
  const level =
    strength === null
      ? 0.45
      : levels === null
        ? 0.4
        : strength.manner === "top"
          ? Math.abs(levels) - (falling ? 0.05 : 0)
          : levels;
  // Repeats that grow louder from one to the next are strengths.
  const rising = repeats && Math.abs(concordance(repeats, cells, loudness) ?? 0);
  const likely = [strength, repeat, group].reduce((sum, c) => sum + (c ? c.likely - 0.3 : 0), 0);
  const score =
    note.worth +
    2 * unique +
    1.2 * level * (strength ? strength.coverage : 1) +
    fill -
    (rising !== null && rising > 0.8 ? 0.4 : 0) +
    0.5 * likely -
    0.05 * [strength, repeat, group, microphone, trigger].filter((c) => c !== null).length;
  return { ...parts, note, score, levels, falling, unique };
}

const best = (columns: readonly Column[], most: number): Column[] =>
  [...columns].sort((a, b) => b.likely * b.coverage - a.likely * a.coverage).slice(0, most);

const apart = (column: Column, others: readonly (Column | null)[]): boolean =>
  others.every((other) => other === null || !overlaps(column, other));

/** Microphones and triggers are known by their words alone. */
function sideColumns(names: readonly (readonly Piece[])[]): Pick<Parts, "microphone" | "trigger"> {
  const [trigger] = best(
    columnsFor(names, "trigger", false).filter(
      (c) => c.meanings.some((m) => m?.value === "release") && c.meanings.some((m) => m?.value !== "release"),
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
  names: readonly (readonly Piece[])[],
  sounds: Sounds,
  options: PieceOptions,
): (Scored & { options: PieceOptions })[] {
  const sides = sideColumns(names);
  const others = [sides.microphone, sides.trigger];
  const free = (column: Column): boolean => apart(column, others);
  const germanHints = names.some((pieces) =>
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
  const groups = varied("group", 12).filter((c) => c.distinct > 1 && c.distinct <= 24);
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

const OPTIONS: readonly PieceOptions[] = [
  { below: false, forte: false },
  { below: true, forte: false },
  { below: false, forte: true },
];

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
  const readings = OPTIONS.flatMap((options) => {
    const names = seen.map((s) => piecesOf(s.path, options));
    const mark = JSON.stringify(names);
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

/** Names taken apart as a reading does it. */
export interface AppliedReading {
  readonly names: readonly NameReading[];
  readonly pieces: readonly (readonly ReadPiece[])[];
}

/** Reads all names of a set in one way. */
export function applyReading(reading: Reading, sounds: readonly NamedSound[]): AppliedReading {
  const names = sounds.map((s) => piecesOf(s.path, reading.options));
  const columns = Object.values(reading.columns).map((c) => columnOf(names, c.role, c.manner, c.selector, c.german));
  const of = (role: Role): Column | null => columns.find((c) => c.role === role) ?? null;
  const [note, strength, repeat, microphone, trigger, group] = (
    ["note", "strength", "repeat", "microphone", "trigger", "group"] as const
  ).map(of);
  const most = Math.max(0, ...(strength?.meanings.map((m) => Number(m?.value ?? 0)) ?? []));
  const velocities = (n: number): NameReading["velocities"] => {
    const hit = strength?.meanings[n];
    if (!strength || !hit || typeof hit.value !== "number") return null;
    if (strength.manner === "range") return { low: hit.low ?? null, high: hit.value };
    if (strength.manner === "percent") return { low: null, high: Math.round(1.27 * hit.value) };
    // Numbers that reach so high are velocities, others but ranks.
    return strength.manner === "top" && !reading.falling && most >= 100 ? { low: null, high: hit.value } : null;
  };
  const rows = names.map((_, n): NameReading => {
    const told = note?.meanings[n] ?? null;
    const hit = strength?.meanings[n] ?? null;
    const value = typeof hit?.value === "number" ? hit.value : null;
    const pitch = sounds[n]?.pitch ?? null;
    const called =
      told === null
        ? null
        : note?.manner === "class"
          ? nearestOf(told.value as number, pitch)
          : Math.round(told.value as number) + reading.shift;
    return {
      note: called !== null && called >= 0 && called <= 127 ? called : null,
      strength: value === null ? null : reading.falling ? -value : value,
      velocities: velocities(n),
      repeat: typeof repeat?.meanings[n]?.value === "number" ? (repeat.meanings[n]?.value as number) : null,
      microphone: (microphone?.meanings[n]?.value as string | undefined) ?? null,
      trigger: (trigger?.meanings[n]?.value as "press" | "release" | undefined) ?? null,
      group: (group?.meanings[n]?.value as string | undefined) ?? null,
    };
  });
  const pieces = names.map((all, n) =>
    all.map((piece, i): ReadPiece => {
      const column = columns.find((c) => {
        const at = c.at[n] as number;
        return at >= 0 && i >= at && i < at + (c.meanings[n]?.pieces ?? 1);
      });
      return { start: piece.start, end: piece.end, role: column?.role ?? null };
    }),
  );
  return { names: rows, pieces };
}
