import { type KeyboardEvent, useRef } from "react";
import { newGesture } from "../state/gesture";
import { useDrag } from "../widgets/use-drag";
import { useValueWheel } from "../widgets/use-wheel";

/** Pixels of a drag for the whole travel, where the control has no length of its own. */
const WHOLE = 160;

const within = (travel: number): number => Math.min(1, Math.max(0, travel));

interface TravelProps {
  readonly label: string;
  readonly text: string;
  readonly travel: number;
  /** Places that there are; 0 for any. */
  readonly steps: number;
  readonly disabled: boolean;
  readonly set: (travel: number, gesture: string) => void;
  readonly reset: () => void;
  /** Which way it is dragged, and over how many pixels. */
  readonly way?: "up" | "across";
  readonly length?: number;
}

/** What is spread on an element that is a slider to hand, wheel, keys and screen readers: drag, with Shift finely, arrow keys, page keys, Home, End, double click. */
export function useTravel(props: TravelProps) {
  const { label, text, travel, steps, disabled, set, reset, way = "up", length = WHOLE } = props;
  const own = useRef<HTMLDivElement>(null);
  const step = steps > 1 ? 1 / (steps - 1) : 0.01;
  const drag = useDrag<{ travel: number; readonly before: number }>({
    start: (event) => {
      if (disabled) return null;
      event.stopPropagation();
      return { travel, before: travel };
    },
    move: ({ data, gesture, stepX, stepY }, event) => {
      data.travel += ((way === "up" ? -stepY : stepX) / length) * (event.shiftKey ? 0.1 : 1);
      set(within(data.travel), gesture);
    },
    giveUp: ({ before }) => set(before, newGesture()),
  });
  useValueWheel(own, (notches, fine) => {
    if (!disabled) set(within(travel + notches * (steps > 1 ? step : fine ? 0.002 : 0.02)), "wheel");
  });
  const onKeyDown = (event: KeyboardEvent) => {
    const by = steps > 1 ? step : event.shiftKey ? 0.1 : 0.01;
    const next = {
      ArrowUp: travel + by,
      ArrowRight: travel + by,
      ArrowDown: travel - by,
      ArrowLeft: travel - by,
      PageUp: travel + Math.max(step, 0.1),
      PageDown: travel - Math.max(step, 0.1),
      Home: 0,
      End: 1,
    }[event.key];
    if (next === undefined || disabled) return;
    event.preventDefault();
    event.stopPropagation();
    set(within(next), "keys");
  };
  return {
    ref: own,
    role: "slider",
    tabIndex: disabled ? -1 : 0,
    "aria-label": label,
    "aria-valuenow": Math.round(travel * 100),
    "aria-valuemin": 0,
    "aria-valuemax": 100,
    "aria-valuetext": text,
    "aria-disabled": disabled,
    "aria-orientation": way === "up" ? ("vertical" as const) : ("horizontal" as const),
    ...drag,
    onDoubleClick: disabled ? undefined : reset,
    onKeyDown,
  };
}
