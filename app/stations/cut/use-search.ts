import { useEffect, useRef, useState } from "react";
import type { FoundSlice } from "../../../core/analysis";
import { changeTake, type Take } from "../../../core/instrument";
import { mergeSlices, sliceId, slicesOf } from "../../../core/mapping";
import { tell } from "../../state/notices";
import { session } from "../../state/session";
import { audioWorker, Cancelled, withProgress } from "../../workers/audio-worker";

/** What a search shows while the threshold is being dragged: nothing of it is in the document yet. */
export interface Preview {
  readonly threshold: number;
  readonly slices: readonly FoundSlice[];
}

/** Finds a take's sounds live while the threshold moves; `settle` measures them and makes it one edit. */
export function useSearch(take: Take | null) {
  const [preview, setPreview] = useState<Preview | null>(null);
  const wanted = useRef<number | null>(null);
  const busy = useRef(false);
  const id = take?.id;
  // biome-ignore lint/correctness/useExhaustiveDependencies: another take, another preview
  useEffect(() => setPreview(null), [id]);

  /** Shows what would be found; only the newest threshold is searched for. */
  const show = async (threshold: number) => {
    if (!take) return;
    wanted.current = threshold;
    setPreview((p) => ({ threshold, slices: p?.slices ?? take.slices }));
    if (busy.current) return;
    busy.current = true;
    try {
      while (wanted.current !== null) {
        const next: number = wanted.current;
        wanted.current = null;
        const { slices } = await audioWorker().search(take.sha, next);
        setPreview({ threshold: next, slices });
      }
    } catch (error) {
      tell("error", `${take.name} can't be searched: ${error instanceof Error ? error.message : String(error)}.`);
    } finally {
      busy.current = false;
    }
  };

  const settle = async (threshold: number) => {
    if (!take) return;
    try {
      const found = await audioWorker().search(take.sha, threshold);
      const measured = await withProgress(
        `Measuring ${found.slices.length} sounds of ${take.name}`,
        (worker, progress) => worker.measure(take.sha, found.slices, progress),
      );
      const fresh = slicesOf(measured, (i) => sliceId(measured[i]?.onset ?? i));
      const slices = mergeSlices(take.slices, fresh, take.rate);
      session.commit(changeTake(take.id, `Find ${slices.length} sounds`, { threshold, floor: found.floor, slices }));
    } catch (error) {
      if (!(error instanceof Cancelled))
        tell("error", `${take.name} can't be searched: ${error instanceof Error ? error.message : String(error)}.`);
    } finally {
      setPreview(null);
    }
  };
  return { preview, show, settle };
}
