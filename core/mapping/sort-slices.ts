import { parseNote } from "../audio";
import type { Marker, Shot, Slice } from "../instrument";
import { makeShots, type ShotPlan } from "./shots";
import { sortSounds } from "./sort";

/** Which of what a slice is: its root note (null: leave as it is), strength and repeat. */
export interface SliceRole {
  readonly note: number | null;
  readonly strength: number;
  readonly repeat: number;
}

/** Slices with their roles, and how many entries or slices were left over. */
export interface SortedSlices {
  readonly roles: ReadonlyMap<string, SliceRole>;
  /** Entries that no slice answered (above 0), or slices for which there was no entry (below 0). */
  readonly over: number;
}

/** In order, one slice for each entry of a list that wasn't skipped. */
export function sortByShots(slices: readonly Slice[], shots: readonly Shot[]): SortedSlices {
  const kept = slices.filter((s) => s.keep);
  const roles = new Map<string, SliceRole>();
  const wanted = shots.filter((s) => s.state !== "skipped");
  kept.forEach((slice, i) => {
    const shot = wanted[i];
    if (shot) roles.set(slice.id, { note: shot.note, strength: shot.strength, repeat: shot.repeat });
  });
  return { roles, over: wanted.length - kept.length };
}

/** In order, by a typed plan. */
export const sortByPlan = (slices: readonly Slice[], plan: ShotPlan): SortedSlices =>
  sortByShots(slices, makeShots(plan));

/** By pitch and by the gaps between levels, in the given order inside. Slices without a note keep none and are repeats of one another. */
export function sortByMeasure(slices: readonly Slice[], noteOf: (slice: Slice) => number | null): SortedSlices {
  const kept = slices.filter((s) => s.keep);
  const sorted = sortSounds(kept.map((s) => ({ id: s.id, pitch: noteOf(s), loudness: s.loudness }))).sorted;
  const roles = new Map<string, SliceRole>();
  for (const { id, note, layer, repeat } of sorted) roles.set(id, { note, strength: layer + 1, repeat });
  return { roles, over: roles.size - kept.length };
}

const SOFT: Readonly<Record<string, number>> = { pp: 1, soft: 1, p: 2, mp: 2, medium: 2, mf: 3, f: 4, hard: 4, ff: 5 };

/** By the names of the markers at which they begin: a note name or number, a strength (`s2`, `v2`, `soft`), a repeat (`r3`). */
export function sortByNames(slices: readonly Slice[], markers: readonly Marker[], rate: number): SortedSlices {
  const roles = new Map<string, SliceRole>();
  const counts = new Map<string, number>();
  let left = 0;
  for (const slice of slices.filter((s) => s.keep)) {
    const marker = markers.find((m) => Math.abs(m.at - slice.onset) < rate * 0.05);
    const words = marker?.name.split(/[\s_.-]+/) ?? [];
    let [note, strength, repeat]: [number | null, number, number | null] = [null, 1, null];
    for (const word of words) {
      const struck = /^[sv](\d{1,3})$/i.exec(word);
      const again = /^r+(\d{1,3})$/i.exec(word);
      if (struck) strength = Math.max(1, Number(struck[1]));
      else if (again) repeat = Math.max(1, Number(again[1]));
      else if (SOFT[word.toLowerCase()] !== undefined) strength = SOFT[word.toLowerCase()] ?? 1;
      else note ??= parseNote(word);
    }
    if (note === null) {
      left--;
      continue;
    }
    const key = `${note}/${strength}`;
    const nth = (counts.get(key) ?? 0) + 1;
    counts.set(key, nth);
    roles.set(slice.id, { note, strength, repeat: repeat ?? nth });
  }
  return { roles, over: left };
}

/** A row of the matrix: one note with its slices by strength. */
export interface MatrixRow {
  /** null for the slices that have no note. */
  readonly note: number | null;
  /** By strength from 1: the slices, kept or not, in the order of their repeats. */
  readonly cells: readonly (readonly Slice[])[];
}

/** Notes × strengths × repeats: what is there, what is missing. */
export interface Matrix {
  readonly rows: readonly MatrixRow[];
  readonly strengths: number;
  /** How many repeats most cells have. */
  readonly repeats: number;
  /** Kept slices that are wanted and not there, over all cells. */
  readonly missing: number;
}

/** Whether a row is one of the instrument: it has a note, and something of it is kept. */
export const isWanted = (row: MatrixRow): boolean =>
  row.note !== null && row.cells.some((cell) => cell.some((s) => s.keep));

/** Sets slices out as notes × strengths × repeats. Slices that aren't sorted count as the softest. */
export function matrixOf(slices: readonly Slice[], noteOf: (slice: Slice) => number | null): Matrix {
  const strengths = slices.reduce((most, s) => Math.max(most, s.strength ?? 1), 1);
  const byNote = new Map<number | null, Slice[]>();
  for (const slice of slices) {
    const note = noteOf(slice);
    byNote.set(note, [...(byNote.get(note) ?? []), slice]);
  }
  const rows = [...byNote]
    .sort(([a], [b]) => (a ?? 999) - (b ?? 999))
    .map(([note, members]) => ({
      note,
      cells: Array.from({ length: strengths }, (_, s) =>
        members
          .filter((m) => (m.strength ?? 1) === s + 1)
          .sort((a, b) => (a.repeat ?? 999) - (b.repeat ?? 999) || a.start - b.start),
      ),
    }));
  const counts = new Map<number, number>();
  const cells = rows.filter((r) => isWanted(r)).flatMap((r) => r.cells);
  for (const cell of cells) {
    const kept = cell.filter((s) => s.keep).length;
    if (kept > 0) counts.set(kept, (counts.get(kept) ?? 0) + 1);
  }
  const repeats = [...counts].sort(([a, x], [b, y]) => y - x || b - a)[0]?.[0] ?? 0;
  const missing = cells.reduce((sum, cell) => sum + Math.max(0, repeats - cell.filter((s) => s.keep).length), 0);
  return { rows, strengths, repeats, missing };
}

/** The middle one of some sorted values once one of them is taken away. */
function middleWithout(sorted: readonly number[], value: number): number {
  const middle = Math.floor((sorted.length - 2) / 2);
  return sorted[middle >= sorted.indexOf(value) ? middle + 1 : middle] ?? value;
}

const rising = (values: readonly number[]): number[] => [...values].sort((a, b) => a - b);

/** Which sorted slices differ from their siblings (same note and strength), and by what, in words. */
export function oddOnes(slices: readonly Slice[], noteOf: (slice: Slice) => number | null): Map<string, string> {
  const odd = new Map<string, string>();
  const byCell = new Map<string, Slice[]>();
  for (const s of slices.filter((x) => x.keep && x.strength !== null)) {
    const key = `${noteOf(s)}/${s.strength}`;
    byCell.set(key, [...(byCell.get(key) ?? []), s]);
  }
  for (const cell of byCell.values()) {
    if (cell.length < 3) continue;
    const loudness = rising(cell.map((s) => s.loudness));
    const lengths = rising(cell.map((s) => s.end - s.start));
    const tones = rising(cell.flatMap((s) => (s.tone === null ? [] : [s.tone])));
    for (const slice of cell) {
      const words: string[] = [];
      const level = slice.loudness - middleWithout(loudness, slice.loudness);
      if (Math.abs(level) > 4) words.push(`${Math.abs(level).toFixed(1)} dB ${level > 0 ? "louder" : "softer"}`);
      const own = slice.end - slice.start;
      const length = own / Math.max(1, middleWithout(lengths, own));
      if (length < 0.6 || length > 1.7) words.push(`${Math.round(length * 100)} % as long`);
      const tone = slice.tone === null || tones.length < 2 ? 0 : slice.tone - middleWithout(tones, slice.tone);
      if (Math.abs(tone) > 5) words.push(tone > 0 ? "brighter" : "duller");
      if (words.length > 0) odd.set(slice.id, `${words.join(", ")} than its siblings`);
    }
  }
  return odd;
}
