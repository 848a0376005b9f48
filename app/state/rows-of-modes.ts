import type { FoundMode } from "../../core/analysis";
import { clampValue } from "../../core/params";
import { type TableRow, type UnitKind, unitSpec } from "../../core/units";

/** Octaves in 60 dB. */
const SIXTY = 3 / Math.log10(2);

/**
 * The rows of a table for the resonances found in a hit; `hertz` is the frequency of the ratio 1. A resonator's modes are driven the farther the longer they
 * ring, for under noise they are as loud as each other; partials are as loud as they were.
 */
export function rowsOfModes(kind: UnitKind, modes: readonly FoundMode[], hertz: number): readonly TableRow[] {
  const spec = unitSpec(kind).table;
  if (!spec) return [];
  const rings = kind === "resonator";
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
