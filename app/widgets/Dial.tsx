import { type KeyboardEvent, useRef } from "react";
import { newGesture } from "../state/gesture";
import { useDrag } from "./use-drag";
import { useValueWheel } from "./use-wheel";

interface DialProps {
  readonly label: string;
  /** Place on the travel, 0 to 1. */
  readonly travel: number;
  readonly text: string;
  readonly size: number;
  readonly set: (travel: number, gesture: string) => void;
  readonly reset: () => void;
  readonly disabled?: boolean;
  readonly faded?: boolean;
}

const SWEEP = 270;
const within = (travel: number): number => Math.min(1, Math.max(0, travel));
const point = (radius: number, travel: number): string => {
  const angle = ((travel * SWEEP - SWEEP / 2 - 90) * Math.PI) / 180;
  return `${50 + radius * Math.cos(angle)} ${50 + radius * Math.sin(angle)}`;
};
const arc = (radius: number, from: number, to: number): string =>
  `M${point(radius, from)}A${radius} ${radius} 0 ${(to - from) * SWEEP > 180 ? 1 : 0} 1 ${point(radius, to)}`;

/** A dial drawn like a protractor: ticks around, an ink arc for the value, a hand. Drag up and down, arrow keys, the wheel once it has the focus, double click. */
export function Dial({ label, travel, text, size, set, reset, disabled, faded }: DialProps) {
  const dial = useRef<HTMLDivElement>(null);
  const drag = useDrag<{ travel: number; readonly before: number }>({
    start: (event) => {
      if (disabled) return null;
      event.stopPropagation();
      return { travel, before: travel };
    },
    move: ({ data, gesture, stepY }, event) => {
      data.travel -= (stepY / 160) * (event.shiftKey ? 0.1 : 1);
      set(within(data.travel), gesture);
    },
    giveUp: ({ before }) => set(before, newGesture()),
  });
  useValueWheel(dial, (notches, fine) => {
    if (!disabled) set(within(travel + notches * (fine ? 0.002 : 0.02)), "wheel");
  });
  const keys = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 0.1 : 0.01;
    const next = {
      ArrowUp: travel + step,
      ArrowRight: travel + step,
      ArrowDown: travel - step,
      ArrowLeft: travel - step,
      PageUp: travel + 0.1,
      PageDown: travel - 0.1,
      Home: 0,
      End: 1,
    }[event.key];
    if (next === undefined || disabled) return;
    event.preventDefault();
    event.stopPropagation();
    set(within(next), "keys");
  };
  return (
    <div
      ref={dial}
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-label={label}
      aria-valuenow={Math.round(travel * 100)}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuetext={text}
      aria-disabled={disabled}
      {...drag}
      onDoubleClick={disabled ? undefined : reset}
      onKeyDown={keys}
      style={{ width: size, height: size, touchAction: "none", opacity: faded ? 0.5 : 1 }}
    >
      <svg width={size} height={size} viewBox="0 0 100 100" aria-hidden="true">
        {Array.from({ length: 11 }, (_, i) => i / 10).map((t) => (
          <path key={t} d={`M${point(45, t)}L${point(49, t)}`} stroke="var(--rule-strong)" strokeWidth={1.5} />
        ))}
        <path d={arc(39, 0, 1)} fill="none" stroke="var(--rule)" strokeWidth={5} />
        {travel > 0.002 && <path d={arc(39, 0, travel)} fill="none" stroke="var(--ink)" strokeWidth={5} />}
        <circle cx={50} cy={50} r={30} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={1.5} />
        <path d={`M${point(12, travel)}L${point(29, travel)}`} stroke="var(--ink)" strokeWidth={4} />
      </svg>
    </div>
  );
}
