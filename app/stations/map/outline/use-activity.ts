import { type RefObject, useEffect } from "react";
import { decibelsOf } from "../../../../core/audio";
import { engine } from "../../../state/engine";

/** Decibels below full level that a meter shows. */
const DEPTH = 60;

/** Shows how loud layers, groups and microphones are (`data-level`) as long as the outline is there, without drawing it anew. */
export function useActivity(list: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const showLevels = (peaks: Readonly<Record<string, number>> | null) => {
      for (const bar of list.current?.querySelectorAll<HTMLElement>("[data-level]") ?? []) {
        const level = decibelsOf(peaks?.[bar.dataset.level ?? ""] ?? 0);
        bar.style.width = `${100 * Math.min(1, Math.max(0, 1 + level / DEPTH))}%`;
        bar.style.backgroundColor = level > 0 ? "var(--vermilion)" : "";
      }
    };
    const stop = engine.watch();
    const unsubscribe = engine.store.subscribe(({ peaks }, before) => {
      if (peaks !== before.peaks) showLevels(peaks);
    });
    return () => {
      unsubscribe();
      stop();
    };
  }, [list]);
}
