import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useMemo, useRef } from "react";
import { useStore } from "zustand";
import { nameOfNote } from "../../../core/audio";
import type { Instrument, LoopMode, SampledZone } from "../../../core/instrument";
import { formatNumber } from "../../../core/params";
import { foundLoops, isUnjudged, judgeAll, scoreOf, worstFirst } from "../../state/loops";
import { setView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { cx } from "../../widgets/class-names";

interface ZoneListPanelProps {
  readonly zone: SampledZone;
  readonly zones: readonly SampledZone[];
  readonly samples: Instrument["samples"];
}

const ROW = 38;
const MODES: Readonly<Record<LoopMode, string>> = {
  forward: "forward",
  alternating: "ping-pong",
  backward: "backward",
};

/** What a zone's loop is, in few words. */
function loopText({ loop }: SampledZone, rate: number): string {
  if (!loop) return "no loop";
  const length = formatNumber("seconds", (loop.end - loop.start) / rate);
  return `${length}, ${MODES[loop.mode]}${loop.flat ? ", levelled out" : ""}`;
}

/** All zones with their loops' scores, worst first; the arrow keys go through them. */
export function ZoneListPanel({ zone, zones, samples }: ZoneListPanelProps) {
  const found = useStore(foundLoops, (s) => s.of);
  const order = useMemo(() => worstFirst(zones, found), [zones, found]);
  const facts = useMemo(() => new Map(samples.map((s) => [s.sha, s])), [samples]);
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: order.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const place = order.findIndex((z) => z.id === zone.id);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only another zone scrolls
  useEffect(() => {
    if (place >= 0) virtual.scrollToIndex(place, { align: "auto" });
  }, [place]);
  const unjudged = zones.filter((z) => isUnjudged(z, found)).length;
  const go = (to: number) => {
    const next = order[Math.max(0, Math.min(order.length - 1, to))];
    if (next) setView({ zoneIds: new Set([next.id]) });
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex h-10 shrink-0 items-center justify-between gap-2 border-rule border-b px-3">
        <span className="text-ink-soft text-s">worst first</span>
        <Button
          disabled={unjudged === 0}
          hint={unjudged === 0 ? "Every loop has a score" : "Judges the loops that have no score yet, as they are"}
          onClick={() => void judgeAll()}
        >
          Judge {unjudged > 0 ? unjudged : "all"}
        </Button>
      </div>
      <div
        ref={scroller}
        role="listbox"
        tabIndex={0}
        aria-label="Zones with their loops, worst first"
        aria-activedescendant={`loop-zone-${zone.id}`}
        className="min-h-0 flex-1 overflow-y-auto overflow-x-hidden outline-none focus-visible:shadow-[inset_0_0_0_2px_var(--cobalt)]"
        onKeyDown={(event) => {
          const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10, Home: -1e9, End: 1e9 }[event.key];
          if (by === undefined) return;
          event.preventDefault();
          event.stopPropagation();
          go(place + by);
        }}
      >
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start }) => {
            const z = order[index];
            if (!z) return null;
            const sample = facts.get(z.sample);
            const score = scoreOf(z, found);
            const on = z.id === zone.id;
            return (
              // biome-ignore lint/a11y/useKeyWithClickEvents: the list has the keys
              <div
                key={z.id}
                id={`loop-zone-${z.id}`}
                role="option"
                aria-selected={on}
                tabIndex={-1}
                onClick={() => setView({ zoneIds: new Set([z.id]) })}
                className={cx(
                  "absolute inset-x-0 flex cursor-pointer items-center gap-2.5 border-rule border-b px-3 hover:bg-well",
                  on && "bg-tint-cobalt!",
                )}
                style={{ top: start, height: ROW }}
              >
                <span
                  className={cx(
                    "num w-7 shrink-0 text-right font-semibold",
                    score === null && "font-normal text-ink-faint",
                    score !== null && score < 60 && "text-ochre",
                  )}
                  title={
                    score === null ? "Nobody has judged it" : score < 0 ? "No loop was found" : "Score of its loop"
                  }
                >
                  {score === null ? (z.loop ? "?" : "–") : score < 0 ? "none" : score}
                </span>
                <span className="min-w-0 flex-1 leading-tight">
                  <span className="block truncate">{sample?.name ?? z.id}</span>
                  <span className="block truncate text-ink-soft text-s">
                    {nameOfNote(z.root)} · vel. {z.velLow}–{z.velHigh} · {loopText(z, sample?.rate ?? 44100)}
                  </span>
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
