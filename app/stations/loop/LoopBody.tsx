import type { KeyboardEvent } from "react";
import type { Loop } from "../../../core/instrument";
import { useDrag } from "../../widgets/use-drag";
import type { WaveScale } from "../../widgets/wave-scale";

interface LoopBodyProps {
  readonly scale: WaveScale;
  readonly loop: Loop;
  /** Moves the loop so that it begins at a frame. */
  readonly slide: (start: number, gesture: string) => void;
}

/** The strip above a loop by which it is slid with its length kept: by dragging, or from sample to sample by the arrow keys, with shift a hundred. */
export function LoopBody({ scale, loop, slide }: LoopBodyProps) {
  const drag = useDrag<{ readonly start: number; readonly perPixel: number }>({
    start: (event) => {
      event.stopPropagation();
      return { start: loop.start, perPixel: scale.frame(1) - scale.frame(0) };
    },
    move: ({ data, gesture, dx }) => slide(Math.round(data.start + dx * data.perPixel), gesture),
    end: (_, event) => event.stopPropagation(),
    click: (_, event) => event.stopPropagation(),
  });
  const left = Math.max(0, scale.x(loop.start));
  const right = Math.min(scale.width, scale.x(loop.end));
  if (right - left < 8) return null;
  const keys = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    slide(loop.start + by * (event.shiftKey ? 100 : 1), "keys-slide");
  };
  return (
    <div
      data-handle
      role="slider"
      tabIndex={0}
      aria-label="Loop, its length kept"
      aria-valuemin={0}
      aria-valuemax={scale.frames}
      aria-valuenow={loop.start}
      title="Slides the loop, its length kept"
      {...drag}
      onKeyDown={keys}
      className="pointer-events-auto absolute top-0 h-[18px] cursor-grab touch-none hover:bg-tint-cobalt hover:opacity-60"
      style={{ left: left + 6, width: Math.max(0, right - left - 12) }}
    />
  );
}
