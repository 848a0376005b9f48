import { FIND_DEFAULTS, findSlices, type Levels, type MeasuredSlice, proposeKeep } from "../analysis";
import type { Slice, Take } from "../instrument";

/** Slices as the document keeps them, from what was found and measured. */
export function slicesOf(measured: readonly MeasuredSlice[], idOf: (index: number) => string): Slice[] {
  const keep = proposeKeep(measured);
  return measured.map((m, i) => ({ ...m, id: idOf(i), keep: keep[i] ?? true, note: null, cents: null, edited: false }));
}

/** Ids of slices are numbered by their attack, so that a new search finds the same sound under the same id. */
export const sliceId = (onset: number): string => `s${Math.round(onset)}`;

/** The slices of a new search, with what their owner had said of those that are still there; slices whose edges were moved stay. */
export function mergeSlices(before: readonly Slice[], found: readonly Slice[], rate: number): Slice[] {
  const near = (a: { onset: number }, b: { onset: number }) => Math.abs(a.onset - b.onset) < rate * 0.02;
  const kept = before.filter((s) => s.edited);
  const fresh = found
    .filter((s) => !kept.some((k) => near(k, s)))
    .map((s) => {
      const old = before.find((b) => near(b, s));
      return old
        ? {
            ...s,
            id: old.id,
            note: old.note,
            cents: old.cents,
            keep: old.note !== null || old.cents !== null ? old.keep : s.keep,
          }
        : s;
    });
  return [...kept, ...fresh].sort((a, b) => a.start - b.start);
}

/** Finds the sounds of a take at a threshold. */
export const searchTake = (levels: Levels, threshold: number) => findSlices(levels, { ...FIND_DEFAULTS, threshold });

/** A take that has just come in, not yet searched. */
export const newTake = (
  given: Pick<Take, "id" | "name" | "sha" | "rate" | "channels" | "frames" | "origin">,
): Take => ({
  ...given,
  threshold: FIND_DEFAULTS.threshold,
  floor: null,
  slices: [],
});
