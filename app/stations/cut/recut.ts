import type { Sample, Take } from "../../../core/instrument";

/** What a new cut of a take means for the samples that were cut of it before. */
export interface Recut {
  readonly samples: readonly Sample[];
  /** By the content of the old sample: the new one of the same slice, where zones or units use the old one. */
  readonly mapped: ReadonlyMap<string, Sample>;
  /** Earlier cuts of the same slices that nothing uses. */
  readonly stale: ReadonlySet<string>;
}

/** Sorts fresh samples of a take by whether an earlier cut of the same slice is in use. */
export function recutOf(
  take: Take,
  fresh: readonly Sample[],
  old: readonly Sample[],
  used: ReadonlySet<string>,
): Recut {
  const mapped = new Map<string, Sample>();
  const stale = new Set<string>();
  const bySlice = new Map(fresh.map((s) => [s.from?.slice, s]));
  const made = new Set(fresh.map((s) => s.sha));
  for (const before of old) {
    if (before.from?.take !== take.id || made.has(before.sha)) continue;
    const now = bySlice.get(before.from.slice);
    if (!now) continue;
    if (used.has(before.sha)) mapped.set(before.sha, now);
    else stale.add(before.sha);
  }
  return { samples: fresh, mapped, stale };
}
