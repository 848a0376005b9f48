import { type KeyboardEvent, useRef } from "react";
import { useDrag } from "./use-drag";
import type { WaveScale } from "./wave-scale";

interface WaveHandleProps {
  readonly scale: WaveScale;
  readonly frame: number;
  readonly label: string;
  /** What the place is in words, such as its time. */
  readonly text: string;
  readonly set: (frame: number, gesture: string) => void;
  /** Told where a drag ended, with its gesture. */
  readonly settle?: (frame: number, gesture: string) => void;
  readonly colour?: string;
  /** Which way the flag points. */
  readonly side: "left" | "right";
  readonly top?: boolean;
  /** Whether the flag stands in the second row from its edge, so that one in the first at the same place doesn't hide it. */
  readonly inner?: boolean;
  /** Frames that the arrow keys go with Ctrl, such as a period; without it they go as with Shift. */
  readonly stride?: number | undefined;
}

/** A line on the waveform that can be dragged, or moved by the arrow keys: one sample, with shift a hundred, with Ctrl a stride. */
export function WaveHandle({
  scale,
  frame,
  label,
  text,
  set,
  settle,
  colour = "var(--cobalt)",
  side,
  top = true,
  inner = false,
  stride = 100,
}: WaveHandleProps) {
  const dragging = useRef(false);
  const drag = useDrag<{ readonly frame: number; readonly perPixel: number; at: number }>({
    start: (event) => {
      event.stopPropagation();
      dragging.current = true;
      return { frame, perPixel: scale.frame(1) - scale.frame(0), at: frame };
    },
    move: ({ data, gesture, dx }) => {
      data.at = Math.round(data.frame + dx * data.perPixel);
      set(data.at, gesture);
    },
    end: ({ gesture }, event) => {
      event.stopPropagation();
      settle?.(frame, gesture);
    },
    click: (_, event) => event.stopPropagation(),
    over: () => {
      dragging.current = false;
    },
  });
  const x = scale.x(frame);
  // One that is dragged out of sight is still held.
  if (!dragging.current && (x < -20 || x > scale.width + 20)) return null;
  const keys = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const step = event.ctrlKey ? Math.max(1, Math.round(stride)) : event.shiftKey ? 100 : 1;
    set(frame + by * step, `keys-${label}`);
  };
  return (
    <div
      data-handle
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={scale.frames}
      aria-valuenow={frame}
      aria-valuetext={text}
      title={`${label}: ${text}`}
      {...drag}
      onKeyDown={keys}
      className="absolute inset-y-0 w-[11px] touch-none"
      style={{ left: x - 5.5 }}
    >
      <div className="pointer-events-auto absolute inset-0 cursor-ew-resize">
        <div className="absolute inset-y-0 left-[5px] w-[1.5px]" style={{ background: colour }} />
      </div>
      {/* Flags lie over the lines of all handles, so that each can be grasped wherever they meet. */}
      <div
        className="pointer-events-auto absolute z-[1] h-[14px] w-[10px] cursor-ew-resize"
        style={{
          background: colour,
          [top ? "top" : "bottom"]: inner ? 16 : 0,
          [side === "right" ? "left" : "right"]: 5,
          clipPath: side === "right" ? "polygon(0 0, 100% 0, 0 100%)" : "polygon(0 0, 100% 0, 100% 100%)",
        }}
      />
    </div>
  );
}
