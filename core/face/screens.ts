import {
  type Anchor,
  type Edit,
  type Face,
  type FaceItem,
  type FacePlace,
  type FaceSize,
  type Instrument,
  type Screen,
  sizeOfPage,
} from "../instrument";

/** Widest window, in pixels, that is a phone's or a tablet's. */
const PHONE = 600;
const TABLET = 1000;

/** For which screen a face is laid out in a window so wide: the nearest that it has, null for a desktop's. */
export function screenFor(face: Pick<Face, Screen>, width: number): Screen | null {
  if (width <= PHONE && face.phone) return "phone";
  return width <= TABLET && face.tablet ? "tablet" : null;
}

/** Where something of a size stands along one way of a page that becomes another length. */
function anchored(
  from: number,
  size: number,
  before: number,
  after: number,
  anchor: Anchor,
): readonly [from: number, size: number] {
  switch (anchor) {
    case "start":
      return [from, size];
    case "end":
      return [from + after - before, size];
    case "middle":
      return [from + (after - before) / 2, size];
    case "both":
      return [from, Math.max(1, size + after - before)];
    case "scale":
      return [(from * after) / before, (size * after) / before];
  }
}

/** The size of a page on a screen: its own at the most, where the screen has one. */
function sizeOn(face: Face, page: string | null, screen: Screen): FaceSize {
  const own = sizeOfPage(face, page);
  const size = face[screen];
  if (!size) return own;
  const plain = own.width === face.width && own.height === face.height;
  return plain ? size : { width: Math.min(own.width, size.width), height: Math.min(own.height, size.height) };
}

/** Where an item stands on a screen, in pixels of its page there: where it was put by hand, else where its anchors lead. */
export function placeOn(item: FaceItem, face: Face, screen: Screen): FacePlace {
  const own = item[screen];
  if (own) return own;
  const [before, after] = [sizeOfPage(face, item.page), sizeOn(face, item.page, screen)];
  const [x, width] = anchored(item.x, item.width, before.width, after.width, item.anchorX);
  const [y, height] = anchored(item.y, item.height, before.height, after.height, item.anchorY);
  const most = (size: number, whole: number) => Math.max(1, Math.min(Math.round(size), whole));
  const [w, h] = [most(width, after.width), most(height, after.height)];
  const within = (at: number, size: number, whole: number) => Math.max(0, Math.min(Math.round(at), whole - size));
  return { x: within(x, w, after.width), y: within(y, h, after.height), width: w, height: h, hidden: item.hidden };
}

/** The face as it is on a screen: its pages' sizes and its items' places are those there; null, or a screen without a layout of its own: as it is. */
export function laidOut(face: Face, screen: Screen | null): Face {
  const size = screen && face[screen];
  if (!screen || !size) return face;
  return {
    ...face,
    ...size,
    pages: face.pages.map((page) => {
      const there = sizeOn(face, page.id, screen);
      return page.width === null && page.height === null ? page : { ...page, ...there };
    }),
    items: face.items.map((item) => ({ ...item, ...placeOn(item, face, screen) })),
  };
}

/** An edit made to the face as a screen shows it: what it does to places and sizes is kept for that screen alone, all else holds for every one. */
export function throughScreen(edit: Edit, screen: Screen | null): Edit {
  if (!screen) return edit;
  return {
    ...edit,
    ...(edit.merge === undefined ? {} : { merge: `${edit.merge}@${screen}` }),
    apply: (doc) => (doc.face[screen] ? through(doc, edit, screen) : edit.apply(doc)),
  };
}

function through(doc: Instrument, edit: Edit, screen: Screen): Instrument {
  const seen = laidOut(doc.face, screen);
  const next = edit.apply({ ...doc, face: seen });
  if (next.face === seen) return { ...next, face: doc.face };
  const [was, shown] = [
    new Map(doc.face.items.map((i) => [i.id, i])),
    new Map(seen.items.map((item) => [item.id, item])),
  ];
  const items = next.face.items.map((item) => {
    const { x, y, width, height, hidden } = item;
    const before = was.get(item.id);
    const view = shown.get(item.id);
    // What is new here stands elsewhere where its anchors lead.
    if (!before || !view) return { ...item, [screen]: { x, y, width, height, hidden } };
    if (item === view) return before;
    const moved =
      x !== view.x || y !== view.y || width !== view.width || height !== view.height || hidden !== view.hidden;
    const kept = { x: before.x, y: before.y, width: before.width, height: before.height, hidden: before.hidden };
    // An edit that sets the place there itself means what it says.
    const own = item[screen] === view[screen] ? before[screen] : item[screen];
    return { ...item, ...kept, [screen]: moved ? { x, y, width, height, hidden } : own };
  });
  const sized = next.face.width !== seen.width || next.face.height !== seen.height;
  const sizes = new Map(doc.face.pages.map((page) => [page.id, page]));
  const views = new Map(seen.pages.map((page) => [page.id, page]));
  return {
    ...next,
    face: {
      ...next.face,
      width: doc.face.width,
      height: doc.face.height,
      [screen]: sized ? { width: next.face.width, height: next.face.height } : next.face[screen],
      items,
      pages: next.face.pages.map((page) => {
        const [before, view] = [sizes.get(page.id), views.get(page.id)];
        if (!before || !view || page.width !== view.width || page.height !== view.height) return page;
        return { ...page, width: before.width, height: before.height };
      }),
    },
  };
}
