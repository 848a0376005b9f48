import type { FoundMode } from "../../core/analysis";
import type { Unit } from "../../core/instrument";
import { clampValue } from "../../core/params";
import { type TableRow, type TableSpec, type UnitKind, unitSpec } from "../../core/units";

/** The rows of a unit's table; those of its kind where it has none of its own. */
export const rowsOf = (unit: Unit): readonly TableRow[] => unit.table ?? unitSpec(unit.kind).table?.default ?? [];

/** A row to be added behind others: the next harmonic, a little softer than the last. */
export function nextRow(spec: TableSpec, rows: readonly TableRow[]): TableRow {
  const last = rows.at(-1);
  return Object.fromEntries(
    spec.columns.map((c) => {
      const before = last?.[c.id] ?? c.default;
      if (!last) return [c.id, c.default];
      const wanted = c.id === "ratio" ? Math.floor(before) + 1 : c.id === "level" ? before - 1 : before;
      return [c.id, clampValue(c, wanted)];
    }),
  );
}

/** Octaves in 60 dB. */
const SIXTY = 3 / Math.log10(2);

/**
 * The rows of a table for the resonances found in a hit; `hertz` is the frequency of the ratio 1. A resonator's modes are driven the farther the longer they
 * ring, for under noise they are as loud as each other; partials are as loud as they were.
 */
export function rowsOfModes(kind: UnitKind, modes: readonly FoundMode[], hertz: number): readonly TableRow[] {
  const spec = unitSpec(kind).table;
  if (!spec) return [];
  const rings = spec.columns.some((c) => c.id === "decay");
  const driven = modes.map(({ level, decay }) => (rings ? level + 10 * Math.log10(decay / SIXTY) : level));
  const loudest = driven.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY);
  return modes.map((mode, i) => {
    const values: Record<string, number> = {
      ratio: mode.hertz / hertz,
      level: Math.round(((driven[i] as number) - loudest) * 10) / 10,
      decay: mode.decay,
    };
    return Object.fromEntries(spec.columns.map((c) => [c.id, clampValue(c, values[c.id] ?? c.default)]));
  });
}

/** Lowest level that is drawn, in decibels. */
export const FLOOR = -60;
/** Octaves above and below the key that are drawn. */
const BELOW = 2;
const ABOVE = 6.3;

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
