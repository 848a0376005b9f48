import { clampValue, type NumberParam } from "../params";
import { isLocked, type TableRow, type TableSpec } from "../units";

/** Something done to all rows of a table at once. */
export type RowShape = (rows: readonly TableRow[], spec: TableSpec) => readonly TableRow[];

const columnOf = (spec: TableSpec, id: string): NumberParam | undefined => spec.columns.find((c) => c.id === id);

/** A row with one of its numbers set, kept in range. */
function withCell(row: TableRow, spec: TableSpec, id: string, value: number): TableRow {
  const column = columnOf(spec, id);
  return column ? { ...row, [id]: clampValue(column, value) } : row;
}

const filled = (spec: TableSpec, values: TableRow): TableRow =>
  Object.fromEntries(spec.columns.map((c) => [c.id, clampValue(c, values[c.id] ?? c.default)]));

/** The same, but for rows that are locked: each stays as it is, in its place, or where others take their places, in that of the row at its ratio, or behind all. */
export const sparingLocked =
  (shape: RowShape): RowShape =>
  (rows, spec) => {
    const locked = rows.filter(isLocked);
    const made = shape(rows, spec);
    // Only their order is another.
    if (locked.length === 0 || locked.every((row) => made.includes(row))) return made;
    if (made.length === rows.length)
      return made.map((row, i) => (isLocked(rows[i] as TableRow) ? (rows[i] as TableRow) : row));
    const apart = (a: TableRow, b: TableRow) => Math.abs(Math.log2((a.ratio ?? 1) / (b.ratio ?? 1)));
    const others = made.filter((row) => locked.every((kept) => apart(row, kept) >= 0.01));
    return sortedByRatio([...locked, ...others.slice(0, spec.most - locked.length)], spec);
  };

/** The first so many harmonics; those that were there keep what else they have, others fall by 6 dB an octave and ring the shorter the higher they are. */
export const harmonics =
  (count: number): RowShape =>
  (rows, spec) =>
    Array.from({ length: Math.min(spec.most, Math.max(1, Math.round(count))) }, (_, i) => {
      const ratio = i + 1;
      const there = rows.find((r) => Math.abs(Math.log2((r.ratio ?? 1) / ratio)) < 0.01);
      const first = rows[0]?.decay;
      return filled(
        spec,
        there
          ? { ...there, ratio }
          : { ratio, level: 0 - 20 * Math.log10(ratio), ...(first ? { decay: first / ratio ** 0.5 } : {}) },
      );
    });

/** Each ratio moved to the nearest whole one where it lies within so many cents of it. */
export const pulledToHarmonics =
  (cents: number): RowShape =>
  (rows, spec) =>
    rows.map((row) => {
      const ratio = row.ratio ?? 1;
      const whole = Math.max(1, Math.round(ratio));
      return Math.abs(1200 * Math.log2(ratio / whole)) <= cents ? withCell(row, spec, "ratio", whole) : row;
    });

/** Ratios within so many cents of an octave of the lowest moved onto it. */
export const pulledToOctaves =
  (cents: number): RowShape =>
  (rows, spec) => {
    const lowest = rows.reduce((a, r) => Math.min(a, r.ratio ?? 1), Number.POSITIVE_INFINITY);
    return rows.map((row) => {
      const octaves = Math.log2((row.ratio ?? 1) / lowest);
      const whole = Math.round(octaves);
      return Math.abs(1200 * (octaves - whole)) <= cents ? withCell(row, spec, "ratio", lowest * 2 ** whole) : row;
    });
  };

/** Each octave of ratio so many decibels louder than the one below it, the loudest as loud as before. */
export const tilted =
  (slope: number): RowShape =>
  (rows, spec) => {
    const levels = rows.map((r) => (r.level ?? 0) + slope * Math.log2(r.ratio ?? 1));
    const top = (list: readonly number[]) => list.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY);
    const less = top(levels) - Math.min(0, top(rows.map((r) => r.level ?? 0)));
    return rows.map((row, i) => withCell(row, spec, "level", (levels[i] as number) - less));
  };

/** Of every so many rows one, counted from the `first` (0 is the first), so many decibels louder or softer. */
export const everyNth =
  (n: number, first: number, decibels: number): RowShape =>
  (rows, spec) =>
    rows.map((row, i) =>
      i >= first && (i - first) % n === 0 ? withCell(row, spec, "level", (row.level ?? 0) + decibels) : row,
    );

/** How far a column goes when it is shaken wholly: in its own unit, or octaves of a ratio or a decay. */
const SHAKES: Readonly<Record<string, number>> = { ratio: 0.05, level: 12, decay: 1, attack: 1, pan: 1, detune: 20 };

/** One column by chance about what it was; all others stay. `amount`: 0 to 1. */
export const randomised =
  (id: string, amount: number, random: () => number): RowShape =>
  (rows, spec) =>
    rows.map((row) => {
      const column = columnOf(spec, id);
      if (!column) return row;
      const value = row[id] ?? column.default;
      const by = (random() * 2 - 1) * amount * (SHAKES[id] ?? 0);
      return withCell(
        row,
        spec,
        id,
        column.mod === "octaves" || id === "decay" || id === "attack" ? value * 2 ** by : value + by,
      );
    });

/** In the order of their ratios. */
export const sortedByRatio: RowShape = (rows) => [...rows].sort((a, b) => (a.ratio ?? 1) - (b.ratio ?? 1));

/** Places that lead from the middle to both sides in turn, the higher the farther. */
export const fannedOut: RowShape = (rows, spec) =>
  rows.map((row, i) => withCell(row, spec, "pan", rows.length < 2 ? 0 : ((i % 2 ? 1 : -1) * i) / (rows.length - 1)));

/** The higher a row the later it comes in: so many seconds for each octave of its ratio, as when a bow or a breath builds up. */
export const risingLater =
  (seconds: number): RowShape =>
  (rows, spec) =>
    rows.map((row) => withCell(row, spec, "attack", seconds * Math.max(0, Math.log2(row.ratio ?? 1))));
