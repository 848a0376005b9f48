import type { FaceGuide } from "../instrument";
import type { Box } from "./arrange";

/** A line that something settled on: a place across ("x") or down ("y"), and from where to where it is drawn. */
export interface Guide {
  readonly way: "x" | "y";
  readonly at: number;
  readonly from: number;
  readonly to: number;
}

/** Where a box settled, and on what. */
export interface Snapped {
  readonly x: number;
  readonly y: number;
  readonly guides: readonly Guide[];
}

interface Line {
  readonly at: number;
  readonly from: number;
  readonly to: number;
}

const edgesOf = (box: Box, way: "x" | "y"): readonly number[] => {
  const size = way === "x" ? box.width : box.height;
  return [box[way], box[way] + size / 2, box[way] + size];
};

/** The edges and centres of boxes along one way. */
function linesOf(boxes: readonly Box[], way: "x" | "y"): Line[] {
  return boxes.flatMap((box) => {
    const [from, to] = way === "x" ? [box.y, box.y + box.height] : [box.x, box.x + box.width];
    return edgesOf(box, way).map((at) => ({ at, from, to }));
  });
}

/** Places at which the gap to a neighbour is that between two others in the same row or column. */
function gapsOf(box: Box, others: readonly Box[], way: "x" | "y"): number[] {
  const size = way === "x" ? "width" : "height";
  const [side, extent] = way === "x" ? (["y", "height"] as const) : (["x", "width"] as const);
  const row = others
    .filter((o) => o[side] < box[side] + box[extent] && box[side] < o[side] + o[extent])
    .sort((a, b) => a[way] - b[way]);
  const places: number[] = [];
  for (let i = 1; i < row.length; i++) {
    const [a, b] = [row[i - 1] as Box, row[i] as Box];
    const gap = b[way] - (a[way] + a[size]);
    if (gap < 0) continue;
    places.push(b[way] + b[size] + gap, a[way] - gap - box[size]);
  }
  return places;
}

/** How far a box is to be moved along one way to settle, and on which line. */
function settle(box: Box, others: readonly Box[], way: "x" | "y", reach: number): { by: number; line: Line | null } {
  let best = { by: 0, line: null as Line | null, away: reach + 1e-9 };
  for (const line of linesOf(others, way)) {
    for (const edge of edgesOf(box, way)) {
      const away = Math.abs(line.at - edge);
      if (away < best.away) best = { by: line.at - edge, line, away };
    }
  }
  for (const place of gapsOf(box, others, way)) {
    const away = Math.abs(place - box[way]);
    if (away < best.away) best = { by: place - box[way], line: null, away };
  }
  return best;
}

/**
 * Where a box that is being dragged settles: with an edge or its centre on those of other boxes, of the page or on guides, or at the gap that two others have
 * between them, no farther than `reach` pixels away; else on a grid.
 */
export function snapped(
  box: Box,
  others: readonly Box[],
  page: Pick<Box, "width" | "height">,
  reach: number,
  grid: number,
  lines: readonly FaceGuide[] = [],
): Snapped {
  // A guide is a line that is as long as the page.
  const ruled = lines.map(
    ({ way, at }): Box =>
      way === "x" ? { x: at, y: 0, width: 0, height: page.height } : { x: 0, y: at, width: page.width, height: 0 },
  );
  const around = [...others, { x: 0, y: 0, ...page }];
  const guides: Guide[] = [];
  const along = (way: "x" | "y"): number => {
    const { by, line } = settle(box, [...around, ...ruled.filter((_, i) => lines[i]?.way === way)], way, reach);
    if (by === 0 && !line) return Math.round(box[way] / grid) * grid;
    if (line) {
      const [from, to] = way === "x" ? [box.y, box.y + box.height] : [box.x, box.x + box.width];
      guides.push({ way, at: line.at, from: Math.min(from, line.from), to: Math.max(to, line.to) });
    }
    return box[way] + by;
  };
  const [x, y] = [along("x"), along("y")];
  return { x, y, guides };
}
