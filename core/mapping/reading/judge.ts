import type { Column } from "./columns";

/** What was measured of the sounds of a set, in the order of their names. */
export interface Sounds {
  readonly pitches: readonly (number | null)[];
  readonly loudness: readonly number[];
}

/** How far a sound may be off its note and still agree, in semitones. */
const NEAR = 0.6;
/** A column of notes with what the sounds say of it. */
export interface NoteChoice {
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
export const nearestOf = (step: number, pitch: number | null): number =>
  pitch === null ? 60 + step : step + 12 * Math.round((pitch - step) / 12);

export function noteChoice(column: Column, { pitches }: Sounds): NoteChoice {
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
export function byEar({ pitches }: Sounds): NoteChoice {
  const notes = pitches.map((p) => (p === null ? null : Math.round(p)));
  const coverage = notes.filter((n) => n !== null).length / Math.max(1, notes.length);
  return { column: null, notes, shift: 0, agreement: null, worth: 1.7 * coverage };
}

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

/** Which columns tell what beside the note. */
export interface Parts {
  readonly strength: Column | null;
  readonly repeat: Column | null;
  readonly group: Column | null;
  readonly microphone: Column | null;
  readonly trigger: Column | null;
}

/** An arrangement of columns with how well it explains a set. */
export interface Scored extends Parts {
  readonly note: NoteChoice;
  readonly score: number;
  readonly levels: number | null;
  readonly falling: boolean;
  readonly unique: number;
}

/** Judges an arrangement: whether each sound has a place of its own, the grid is filled, and what is told agrees with what is heard. */
export function judge(note: NoteChoice, parts: Parts, { loudness }: Sounds): Scored {
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
