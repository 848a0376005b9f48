import type { Sample, Take } from "../../../core/instrument";

/** What a new cut of a take means for the samples that were cut of it before. */
export interface Recut {
  readonly samples: readonly Sample[];
  /** By the content of the old sample: the new one of the same slice, where zones play the old one. */
  readonly mapped: ReadonlyMap<string, Sample>;
}

/** Sorts fresh samples of a take by whether an earlier cut of the same slice is on the keys. */
export function recutOf(
  take: Take,
  fresh: readonly Sample[],
  old: readonly Sample[],
  played: ReadonlySet<string>,
): Recut {
  const mapped = new Map<string, Sample>();
  for (const before of old) {
    if (before.from?.take !== take.id || !played.has(before.sha)) continue;
    const now = fresh.find((s) => s.from?.slice === before.from?.slice);
    if (now && now.sha !== before.sha) mapped.set(before.sha, now);
  }
  return { samples: fresh, mapped };
}
