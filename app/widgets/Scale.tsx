import { type KeyboardEvent, useRef } from "react";
import { newGesture } from "../state/gesture";
import { useDrag } from "./use-drag";
import { useValueWheel } from "./use-wheel";

interface ScaleProps {
  readonly label: string;
  /** Place on the travel, 0 to 1, and what it means in words. */
  readonly travel: number;
  readonly text: string;
  readonly set: (travel: number, gesture: string) => void;
  readonly reset?: () => void;
  /** A drag has ended, however it did; before that `givenUp` where it was taken back. */
  readonly ended?: (givenUp: boolean) => void;
  /** Where the fill begins: 0, or the middle for values that go both ways. */
  readonly origin?: number;
  readonly colour?: "ink" | "plum";
  /** How far routes can move it, as a stretch of the travel. */
  readonly reach?: readonly [number, number] | null;
}

/** A press further than that from the mark brings it there. */
const NEAR = 0.06;
const within = (travel: number): number => Math.min(1, Math.max(0, travel));

/** A drafting scale to slide a value along: drag, arrow keys, the wheel once it has the focus, double click to reset. Shift is fine. */
export function Scale({ label, travel, text, set, reset, ended, origin = 0, colour = "ink", reach }: ScaleProps) {
  const track = useRef<HTMLDivElement>(null);
  const drag = useDrag<{ travel: number; readonly before: number }>({
    start: (event, gesture) => {
      const from = { travel, before: travel };
      const box = event.currentTarget.getBoundingClientRect();
      const at = (event.clientX - box.left) / box.width;
      if (!event.shiftKey && Math.abs(at - travel) > NEAR) {
        from.travel = at;
        set(within(at), gesture);
      }
      return from;
    },
    move: ({ data, gesture, stepX }, event) => {
      const width = event.currentTarget.clientWidth;
      if (width === 0 || stepX === 0) return;
      data.travel += (stepX / width) * (event.shiftKey ? 0.1 : 1);
      set(within(data.travel), gesture);
    },
    giveUp: ({ before }) => {
      set(before, newGesture());
      ended?.(true);
    },
    over: () => ended?.(false),
  });
  useValueWheel(track, (notches, fine) => set(within(travel + notches * (fine ? 0.002 : 0.02)), "wheel"));
  const keys = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 0.1 : 0.01;
    const by = { ArrowRight: step, ArrowUp: step, ArrowLeft: -step, ArrowDown: -step, PageUp: 0.1, PageDown: -0.1 }[
      event.key
    ];
    if (event.key === "Home") set(0, newGesture());
    else if (event.key === "End") set(1, newGesture());
    else if (by !== undefined) set(within(travel + by), "keys");
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const from = Math.min(origin, travel);
  const percent = (x: number) => `${x * 100}%`;
  return (
    <div
      ref={track}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(travel * 1000) / 10}
      aria-valuetext={text}
      {...drag}
      onDoubleClick={reset}
      onKeyDown={keys}
      className="relative h-[22px] min-w-10 flex-1 touch-none cursor-ew-resize"
    >
      <div className="absolute inset-x-0 top-[10px] h-px bg-rule-strong" />
      {[0, 0.25, 0.5, 0.75, 1].map((t) => (
        <div key={t} className="absolute top-[7px] h-[7px] w-px bg-rule" style={{ left: percent(t) }} />
      ))}
      {reach && (
        <div
          className="absolute top-[13px] h-[3px] bg-plum"
          style={{ left: percent(Math.min(...reach)), width: percent(Math.abs(reach[1] - reach[0])) }}
        />
      )}
      <div
        className={colour === "plum" ? "absolute top-[9px] h-[3px] bg-plum" : "absolute top-[9px] h-[3px] bg-ink"}
        style={{ left: percent(from), width: percent(Math.abs(travel - origin)) }}
      />
      <div
        className={
          colour === "plum"
            ? "absolute top-[4px] h-[13px] w-[5px] -translate-x-1/2 bg-plum"
            : "absolute top-[4px] h-[13px] w-[5px] -translate-x-1/2 bg-ink"
        }
        style={{ left: percent(travel) }}
      />
    </div>
  );
}
