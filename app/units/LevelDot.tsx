import { useEffect, useRef } from "react";
import type { Unit } from "../../core/instrument";
import { engine } from "../state/engine";
import { session } from "../state/session";
import { pictureOf } from "./unit-picture";

const POINTS = 401;

/** What is measured before a stage of a layer's voices: the stage before it, or the source. */
function partBefore(address: string): string | null {
  const match = /^(layers\/[^/]+)\/stages\/([^/]+)$/.exec(address);
  if (!match) return null;
  const layer = session.instrument?.layers.find((l) => `layers/${l.id}` === match[1]);
  const at = layer?.stages.findIndex((u) => u.id === match[2]) ?? -1;
  if (!layer || at < 0) return null;
  return at === 0 ? `${match[1]}/source` : `${match[1]}/stages/${layer.stages[at - 1]?.id}`;
}

/** Where on a curve the sound is that comes in: a dot at its peak, as long as something sounds. */
export function LevelDot({ address, unit }: { address: string; unit: Unit }) {
  const dot = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const before = partBefore(address);
    const points = pictureOf(unit, POINTS);
    if (!before || !points) return;
    const show = (peak: number) => {
      if (!dot.current) return;
      const x = Math.min(1, Math.max(0, 0.5 + peak / 2));
      const y = points[Math.round(x * (POINTS - 1))] ?? 0.5;
      dot.current.style.opacity = peak > 1e-4 ? "1" : "0";
      dot.current.style.left = `${x * 100}%`;
      dot.current.style.bottom = `calc(8px + ${y} * (100% - 16px))`;
      dot.current.dataset.peak = peak.toFixed(4);
    };
    const stop = engine.watch();
    const unsubscribe = engine.store.subscribe(({ peaks }, was) => {
      if (peaks !== was.peaks) show(peaks?.[before] ?? 0);
    });
    return () => {
      unsubscribe();
      stop();
    };
  }, [address, unit]);
  return (
    <span
      ref={dot}
      aria-hidden
      data-testid="level-dot"
      className="-translate-x-1/2 pointer-events-none absolute size-3 translate-y-1/2 rounded-full border-2 border-sheet bg-leaf opacity-0"
    />
  );
}
