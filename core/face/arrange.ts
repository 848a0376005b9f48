/** Where something lies on a page. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A way to bring several boxes into order. */
export type Arrangement =
  | "left"
  | "centre"
  | "right"
  | "top"
  | "middle"
  | "bottom"
  | "across"
  | "down"
  | "size"
  | "row"
  | "grid"
  | "circle";

export const ARRANGEMENT_LABELS: Readonly<Record<Arrangement, string>> = {
  left: "Align left edges",
  centre: "Align centres",
  right: "Align right edges",
  top: "Align top edges",
  middle: "Align middles",
  bottom: "Align bottom edges",
  across: "Same gaps across",
  down: "Same gaps down",
  size: "Same size",
  row: "In a row",
  grid: "In a grid",
  circle: "In a circle",
};

/** Pixels between boxes that are put beside each other. */
const GAP = 16;

/** The box that holds all of them. */
export function around(boxes: readonly Box[]): Box {
  const x = Math.min(...boxes.map((b) => b.x));
  const y = Math.min(...boxes.map((b) => b.y));
  const right = Math.max(...boxes.map((b) => b.x + b.width));
  const bottom = Math.max(...boxes.map((b) => b.y + b.height));
  return { x, y, width: right - x, height: bottom - y };
}

/** Reading order: by rows from above, from left to right in each. */
const inOrder = (boxes: readonly Box[]): number[] =>
  boxes
    .map((_, i) => i)
    .sort((i, j) => {
      const [a, b] = [boxes[i] as Box, boxes[j] as Box];
      const apart = a.y + a.height / 2 - (b.y + b.height / 2);
      return Math.abs(apart) > Math.min(a.height, b.height) / 2 ? apart : a.x - b.x;
    });

/** Boxes at even gaps between the first and the last of them; `way`: "x" across, "y" down. */
function evened(boxes: readonly Box[], way: "x" | "y"): Box[] {
  const size = way === "x" ? "width" : "height";
  const order = boxes.map((_, i) => i).sort((i, j) => (boxes[i] as Box)[way] - (boxes[j] as Box)[way]);
  const whole = around(boxes);
  const filled = boxes.reduce((sum, b) => sum + b[size], 0);
  const gap = (whole[size] - filled) / Math.max(1, boxes.length - 1);
  const out = boxes.slice() as Box[];
  let at = whole[way];
  for (const i of order) {
    out[i] = { ...(boxes[i] as Box), [way]: Math.round(at) };
    at += (boxes[i] as Box)[size] + gap;
  }
  return out;
}

/** Boxes laid out anew from where the whole begins, `columns` in a row, in reading order. */
function laidOut(boxes: readonly Box[], columns: number): Box[] {
  const whole = around(boxes);
  const width = Math.max(...boxes.map((b) => b.width));
  const height = Math.max(...boxes.map((b) => b.height));
  const out = boxes.slice() as Box[];
  inOrder(boxes).forEach((i, n) => {
    const box = boxes[i] as Box;
    // In a single row they need no more than their own widths.
    out[i] = {
      ...box,
      x: whole.x + (n % columns) * (width + GAP) + Math.floor((width - box.width) / 2),
      y: whole.y + Math.floor(n / columns) * (height + GAP),
    };
  });
  return out;
}

/** The boxes in another order, in the order in which they were given. Fewer than two stay. */
export function arranged(boxes: readonly Box[], how: Arrangement): readonly Box[] {
  if (boxes.length < 2) return boxes;
  const whole = around(boxes);
  const each = (change: (box: Box) => Partial<Box>) => boxes.map((box) => ({ ...box, ...change(box) }));
  switch (how) {
    case "left":
      return each(() => ({ x: whole.x }));
    case "right":
      return each((b) => ({ x: whole.x + whole.width - b.width }));
    case "centre":
      return each((b) => ({ x: Math.round(whole.x + (whole.width - b.width) / 2) }));
    case "top":
      return each(() => ({ y: whole.y }));
    case "bottom":
      return each((b) => ({ y: whole.y + whole.height - b.height }));
    case "middle":
      return each((b) => ({ y: Math.round(whole.y + (whole.height - b.height) / 2) }));
    case "across":
      return evened(boxes, "x");
    case "down":
      return evened(boxes, "y");
    case "size": {
      const { width, height } = boxes[0] as Box;
      return each(() => ({ width, height }));
    }
    case "row":
      return laidOut(boxes, boxes.length);
    case "grid":
      return laidOut(boxes, Math.ceil(Math.sqrt(boxes.length)));
    case "circle": {
      const largest = Math.max(...boxes.map((b) => Math.max(b.width, b.height)));
      const radius = Math.max(largest, (boxes.length * (largest + GAP)) / (2 * Math.PI));
      const out = boxes.slice() as Box[];
      inOrder(boxes).forEach((i, n) => {
        const box = boxes[i] as Box;
        const angle = (2 * Math.PI * n) / boxes.length - Math.PI / 2;
        out[i] = {
          ...box,
          x: Math.round(whole.x + radius * (1 + Math.cos(angle)) + (largest - box.width) / 2),
          y: Math.round(whole.y + radius * (1 + Math.sin(angle)) + (largest - box.height) / 2),
        };
      });
      return out;
    }
  }
}
