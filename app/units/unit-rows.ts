import { clampValue, type NumberParam } from "../../core/params";
import { isLocked, LOCKED, type TableRow, type TableSpec } from "../../core/units";

/** A row to be added behind others: the next harmonic, a little softer than the last. */
export function nextRow(spec: TableSpec, rows: readonly TableRow[]): TableRow {
  const last = rows.at(-1);
  return Object.fromEntries(
    spec.columns.map((c) => {
      const before = last?.[c.id] ?? c.default;
      if (!last || c.id === LOCKED.id) return [c.id, c.default];
      const wanted = c.id === "ratio" ? Math.floor(before) + 1 : c.id === "level" ? before - 1 : before;
      return [c.id, clampValue(c, wanted)];
    }),
  );
}

/** Lowest level that is drawn, in decibels. */
export const FLOOR = -60;
/** Octaves above and below the key that are drawn. */
const BELOW = 2.3;
const ABOVE = 8.05;

/** The place of a ratio across a picture (0 to 1), evenly by octaves; and of a level up it. */
export const placeOfRatio = (ratio: number): number =>
  Math.min(1, Math.max(0, (Math.log2(ratio) + BELOW) / (BELOW + ABOVE)));
export const heightOfLevel = (level: number): number => Math.min(1, Math.max(0, 1 - level / FLOOR));
export const levelAtHeight = (height: number): number => Math.min(0, FLOOR * (1 - height));

/** The row whose ratio stands nearest to a place across the picture, no farther than `reach`; −1 for none. */
export function rowNear(rows: readonly TableRow[], place: number, reach: number): number {
  let best = -1;
  let least = reach;
  rows.forEach(({ ratio = 1 }, r) => {
    const away = Math.abs(placeOfRatio(ratio) - place);
    if (away >= least) return;
    least = away;
    best = r;
  });
  return best;
}

export const ratioAtPlace = (place: number): number => 2 ** (place * (BELOW + ABOVE) - BELOW);

/** A point of a stroke, in shares of the picture's width and of its columns' height. */
export interface StrokePoint {
  readonly x: number;
  readonly y: number;
}

/** The columns of a table that are heard. */
export const heardColumns = (spec: TableSpec): readonly NumberParam[] => spec.columns.filter((c) => c.id !== LOCKED.id);

/** The rows with the levels of all that a stroke passes and that aren't locked set to its height there; where it passes twice the last counts. */
export function stroke(rows: readonly TableRow[], points: readonly StrokePoint[]): readonly TableRow[] {
  return rows.map((row) => {
    if (isLocked(row)) return row;
    const place = placeOfRatio(row.ratio ?? 1);
    let level = row.level ?? 0;
    for (let i = 1; i < points.length; i++) {
      const [a, b] = [points[i - 1] as StrokePoint, points[i] as StrokePoint];
      if ((place - a.x) * (place - b.x) > 0) continue;
      const way = a.x === b.x ? 1 : (place - a.x) / (b.x - a.x);
      level = Math.round(levelAtHeight(Math.min(1, Math.max(0, a.y + (b.y - a.y) * way))) * 10) / 10;
    }
    return level === row.level ? row : { ...row, level };
  });
}
