import { type KeyboardEvent, type PointerEvent, useRef, type WheelEvent } from "react";
import { newGesture } from "../state/gesture";

interface ScaleProps {
  readonly label: string;
  /** Place on the travel, 0 to 1, and what it means in words. */
  readonly travel: number;
  readonly text: string;
  readonly set: (travel: number, gesture: string) => void;
  readonly reset?: () => void;
  /** Where the fill begins: 0, or the middle for values that go both ways. */
  readonly origin?: number;
  readonly colour?: "ink" | "plum";
  /** How far routes can move it, as a stretch of the travel. */
  readonly reach?: readonly [number, number] | null;
}

/** A drafting scale to slide a value along: drag, wheel, arrow keys, double click to reset. Shift is fine. */
export function Scale({ label, travel, text, set, reset, origin = 0, colour = "ink", reach }: ScaleProps) {
  const drag = useRef<{ x: number; travel: number; gesture: string } | null>(null);
  const wheel = useRef({ gesture: "", at: 0 });
  const track = useRef<HTMLDivElement>(null);

  const down = (event: PointerEvent) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, travel, gesture: newGesture() };
    const box = track.current?.getBoundingClientRect();
    if (!box || event.shiftKey) return;
    const at = (event.clientX - box.left) / box.width;
    if (Math.abs(at - travel) > 0.06) {
      drag.current.travel = at;
      set(Math.min(1, Math.max(0, at)), drag.current.gesture);
    }
  };
  const move = (event: PointerEvent) => {
    const from = drag.current;
    const width = track.current?.clientWidth ?? 0;
    if (!from || width === 0) return;
    const step = ((event.clientX - from.x) / width) * (event.shiftKey ? 0.1 : 1);
    if (step === 0) return;
    from.travel += step;
    from.x = event.clientX;
    set(Math.min(1, Math.max(0, from.travel)), from.gesture);
  };
  const keys = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 0.1 : 0.01;
    const by = { ArrowRight: step, ArrowUp: step, ArrowLeft: -step, ArrowDown: -step, PageUp: 0.1, PageDown: -0.1 }[
      event.key
    ];
    if (event.key === "Home") set(0, newGesture());
    else if (event.key === "End") set(1, newGesture());
    else if (by !== undefined) set(Math.min(1, Math.max(0, travel + by)), "keys");
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const turn = (event: WheelEvent) => {
    if (performance.now() - wheel.current.at > 600) wheel.current.gesture = newGesture();
    wheel.current.at = performance.now();
    set(
      Math.min(1, Math.max(0, travel - Math.sign(event.deltaY) * (event.shiftKey ? 0.002 : 0.02))),
      wheel.current.gesture,
    );
  };
  const from = Math.min(origin, travel);
  const percent = (x: number) => `${x * 100}%`;
  return (
    <div
      ref={track}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={Math.round(travel * 1000) / 10}
      aria-valuetext={text}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={() => {
        drag.current = null;
      }}
      onDoubleClick={reset}
      onKeyDown={keys}
      onWheel={turn}
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
