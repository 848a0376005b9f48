import { useCallback } from "react";
import { useStore } from "zustand";
import type { StoreApi } from "zustand/vanilla";
import type { Box, Guide } from "../../../core/face";
import { type Draw, Drawing } from "../../widgets/Drawing";

/** What is being done to the page by hand, beside what that does to the document. */
export interface Doing {
  readonly guides: readonly Guide[];
  /** What is said beside the pointer. */
  readonly says: string;
  readonly frame: Box | null;
  /** Frames of what is dragged, and how far they are from where they were. */
  readonly dragged?: { readonly boxes: readonly Box[]; readonly x: number; readonly y: number };
}

/** Pixels by which a guide reaches beyond what settled on it. */
const BEYOND = 8;

/**
 * The lines that something settled on, the frame that is drawn, and figures beside it, over a page that is drawn at a scale. All in one picture: an element that
 * moves makes the browser put the layers of all items on the page in order anew.
 */
export function Marks({ doing, scale }: { doing: StoreApi<{ readonly now: Doing | null }>; scale: number }) {
  const now = useStore(doing, (d) => d.now);
  const draw = useCallback<Draw>(
    (pen, width, _, colours) => {
      if (!now) return;
      pen.strokeStyle = colours.cobalt;
      pen.fillStyle = colours.cobalt;
      const { dragged, frame, guides, says } = now;
      pen.beginPath();
      for (const { x, y, width: w, height: h } of dragged?.boxes ?? [])
        pen.rect((x + (dragged?.x ?? 0)) * scale, (y + (dragged?.y ?? 0)) * scale, w * scale, h * scale);
      pen.stroke();
      for (const { way, at, from, to } of guides) {
        const [begin, length] = [from * scale - BEYOND, (to - from) * scale + 2 * BEYOND];
        const place = Math.round(at * scale);
        if (way === "x") pen.fillRect(place, begin, 1, length);
        else pen.fillRect(begin, place, length, 1);
      }
      if (frame) drawFrame(pen, frame, scale);
      pen.font = '12px "Spline Sans Mono Variable", monospace';
      const wide = pen.measureText(says).width + 12;
      pen.beginPath();
      pen.roundRect(width - wide - 4, 4, wide, 18, 2);
      pen.fill();
      pen.fillStyle = colours["on-spot"];
      pen.fillText(says, width - wide + 2, 17);
    },
    [now, scale],
  );
  if (!now) return null;
  return (
    <div aria-hidden className="pointer-events-none absolute inset-0">
      <Drawing draw={draw} label="" className="h-full w-full" />
    </div>
  );
}

/** What is chosen by it is seen through it. */
function drawFrame(pen: CanvasRenderingContext2D, { x, y, width, height }: Box, scale: number): void {
  pen.globalAlpha = 0.12;
  pen.fillRect(x * scale, y * scale, width * scale, height * scale);
  pen.globalAlpha = 1;
  pen.setLineDash([3, 3]);
  pen.strokeRect(x * scale + 0.5, y * scale + 0.5, width * scale, height * scale);
  pen.setLineDash([]);
}
