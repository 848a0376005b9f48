import { memo } from "react";
import { useStore } from "zustand";
import type { StoreApi } from "zustand/vanilla";
import type { Box, Guide } from "../../../core/face";

/** What is being done to the page by hand, beside what that does to the document. */
export interface Doing {
  readonly guides: readonly Guide[];
  /** What is said beside the pointer. */
  readonly says: string;
  readonly frame: Box | null;
  /** Frames of what is dragged, and how far they are from where they were. */
  readonly dragged?: { readonly boxes: readonly Box[]; readonly x: number; readonly y: number };
}

/** Frames of many items, drawn once. */
const Frames = memo(function Frames({ boxes, scale }: { boxes: readonly Box[]; scale: number }) {
  return boxes.map(({ x, y, width, height }, i) => (
    <div
      // biome-ignore lint/suspicious/noArrayIndexKey: they stay as they are for as long as they are dragged
      key={i}
      className="absolute border-cobalt"
      style={{ left: x, top: y, width, height, borderWidth: 1 / scale }}
    />
  ));
});

/** The lines that something settled on, the frame that is drawn, and figures beside it. */
export function Marks({ doing, scale }: { doing: StoreApi<{ readonly now: Doing | null }>; scale: number }) {
  const now = useStore(doing, (d) => d.now);
  if (!now) return null;
  const { guides, says, frame, dragged } = now;
  return (
    <div aria-hidden className="pointer-events-none absolute inset-0">
      {dragged && (
        <div style={{ transform: `translate(${dragged.x}px, ${dragged.y}px)`, willChange: "transform" }}>
          <Frames boxes={dragged.boxes} scale={scale} />
        </div>
      )}
      {guides.map((guide) => (
        <div
          key={`${guide.way} ${guide.at}`}
          className="absolute bg-cobalt"
          style={
            guide.way === "x"
              ? { left: guide.at, top: guide.from - 8, height: guide.to - guide.from + 16, width: 1 / scale }
              : { top: guide.at, left: guide.from - 8, width: guide.to - guide.from + 16, height: 1 / scale }
          }
        />
      ))}
      {frame && (
        <div
          className="absolute border border-cobalt border-dashed bg-tint-cobalt opacity-50"
          style={{ left: frame.x, top: frame.y, width: frame.width, height: frame.height }}
        />
      )}
      <span
        className="num absolute top-1 right-1 rounded-m bg-cobalt px-1.5 text-on-spot text-s"
        style={{ transform: `scale(${1 / scale})`, transformOrigin: "100% 0" }}
      >
        {says}
      </span>
    </div>
  );
}
