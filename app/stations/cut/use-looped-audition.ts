import { useCallback, useEffect, useState } from "react";
import type { Slice, Take } from "../../../core/instrument";
import { audition, hush } from "../../state/audio-queries";

/** Plays a slice again and again, as its edges are now, until it is toggled off or another is chosen; returns the toggle. */
export function useLoopedAudition(take: Take, slice: Slice | null): () => void {
  const [id, setId] = useState<string | null>(null);
  const looped = slice !== null && slice.id === id;
  const [start, end] = looped ? [slice.start, slice.end] : [0, 0];
  useEffect(() => {
    if (!looped) return;
    void audition(take.sha, start, end, true);
    return hush;
  }, [looped, take.sha, start, end]);
  // Another choice ends it.
  useEffect(() => {
    if (!looped) setId(null);
  }, [looped]);
  const chosen = slice?.id ?? null;
  return useCallback(() => setId((now) => (now !== null && now === chosen ? null : chosen)), [chosen]);
}
