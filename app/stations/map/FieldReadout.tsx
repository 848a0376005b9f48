import type { Box } from "./field-geometry";

/** What is written and drawn over the field while something is dragged. */
export interface Over {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly box: Box | null;
}

/** What is dragged to where, beside the pointer; and the box in which zones are chosen. */
export function FieldReadout({ over: { text, x, y, box }, width }: { over: Over; width: number }) {
  return (
    <>
      {box && (
        <div
          className="pointer-events-none absolute z-10 border border-cobalt bg-tint-cobalt opacity-50"
          style={{
            left: Math.min(box.x0, box.x1),
            top: Math.min(box.y0, box.y1),
            width: Math.abs(box.x1 - box.x0),
            height: Math.abs(box.y1 - box.y0),
          }}
        />
      )}
      <p
        role="status"
        className="num pointer-events-none absolute z-20 whitespace-pre rounded-s border border-ink bg-sheet px-1.5 py-0.5 text-s"
        style={{ top: Math.max(2, y - 46), ...(x > width / 2 ? { right: width - x + 12 } : { left: x + 12 }) }}
      >
        {text}
      </p>
    </>
  );
}
