import type { Face, FaceItem, FacePlace, FaceSize, Screen } from "../instrument";
import { sizeOfPage } from "../instrument";
import { LETTER, lettersOf } from "./face-check";

/** Room between items and around them, in pixels. */
const GAP = 10;
/** How much narrower than long a screen has to be against the page for its items to flow anew. */
const OTHER_FORM = 1.35;
/** Lowest line of text, in pixels: its letters are ten. */
const LEAST_LINE = 15;

/** Items by rows as they are read: those whose heights overlap stand in one row, from the left. */
function rowsOf(items: readonly FaceItem[]): FaceItem[][] {
  const rows: FaceItem[][] = [];
  let bottom = Number.NEGATIVE_INFINITY;
  for (const item of [...items].sort((a, b) => a.y + a.height / 2 - (b.y + b.height / 2))) {
    const middle = item.y + item.height / 2;
    if (middle >= bottom || rows.length === 0) {
      rows.push([]);
      bottom = item.y + item.height;
    }
    rows.at(-1)?.push(item);
  }
  return rows.map((row) => row.sort((a, b) => a.x - b.x));
}

/** How tall an item is in so much width: a line of text that would be cut off is written smaller, as far as it can be read. */
function heightIn(item: FaceItem, width: number): number {
  const needs = item.text.length * lettersOf(item) * LETTER;
  if (item.kind !== "label" || item.look.letters !== null || needs <= width) return item.height;
  return Math.min(item.height, Math.max(LEAST_LINE, (lettersOf(item) * width) / needs / 0.7));
}

/** Places of items that follow each other in lines as wide as a page, as large as they are where they fit. */
function lined(items: readonly FaceItem[], width: number): Map<string, FacePlace> {
  const places = new Map<string, FacePlace>();
  const across = width - 2 * GAP;
  let top = GAP;
  for (const row of rowsOf(items)) {
    let line: FaceItem[] = [];
    const end = () => {
      const used = line.reduce((sum, i) => sum + Math.min(i.width, across), 0) + (line.length - 1) * GAP;
      // What begins at the left stays there; dials and the like stand in the middle.
      let x = line.some((i) => i.kind === "label") ? GAP : GAP + Math.max(0, (across - used) / 2);
      for (const item of line) {
        const own = Math.min(item.width, across);
        places.set(item.id, {
          x: Math.round(x),
          y: Math.round(top),
          width: Math.round(own),
          height: Math.round(heightIn(item, own)),
          hidden: item.hidden,
        });
        x += own + GAP;
      }
      top += Math.max(0, ...line.map((i) => heightIn(i, Math.min(i.width, across)))) + GAP;
      line = [];
    };
    let used = 0;
    for (const item of row) {
      const own = Math.min(item.width, across);
      if (line.length > 0 && used + own > across) {
        end();
        used = 0;
      }
      line.push(item);
      used += own + GAP;
    }
    end();
  }
  return places;
}

/**
 * Where the items of a page stand on a screen of another form, one line below the other as they are read, made smaller together where they'd be too tall;
 * null where the screen has much the same form, so that anchors serve. Shapes keep to their anchors: they lie behind what they belong to.
 */
export function flowed(face: Face, page: string | null, size: FaceSize): ReadonlyMap<string, FacePlace> | null {
  const whole = sizeOfPage(face, page);
  if (whole.width / whole.height < (size.width / size.height) * OTHER_FORM) return null;
  const items = face.items.filter((i) => (i.page === page || i.page === null) && i.kind !== "shape");
  // In ever wider lines, until all is short enough once it is made as wide as the screen.
  for (let width = size.width; ; width *= 1.12) {
    const places = lined(items, width);
    const bottom = Math.max(0, ...[...places.values()].map((p) => p.y + p.height)) + GAP;
    const scale = size.width / width;
    if (bottom * scale > size.height && width < size.width * 8) continue;
    const fit = Math.min(scale, size.height / bottom);
    const scaled = (x: number): number => Math.max(1, Math.floor(x * fit));
    return new Map(
      [...places].map(([id, p]) => [
        id,
        { x: scaled(p.x), y: scaled(p.y), width: scaled(p.width), height: scaled(p.height), hidden: p.hidden },
      ]),
    );
  }
}

/** The face with a layout for a screen: items of all pages flow where the screen has another form, else they follow their anchors. */
export function withScreen(face: Face, screen: Screen, size: FaceSize): Face {
  const places = new Map<string, FacePlace>();
  for (const { id } of face.pages) for (const [item, place] of flowed(face, id, size) ?? []) places.set(item, place);
  return {
    ...face,
    [screen]: size,
    items: face.items.map((item) => ({ ...item, [screen]: places.get(item.id) ?? null })),
  };
}
