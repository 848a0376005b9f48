import { withoutDead } from "./dead-references";
import { newFaceItem } from "./defaults";
import type { Edit } from "./edit";
import type { Face, FaceItem, Instrument } from "./instrument";

/** Smallest that an item can be, in pixels. */
const LEAST_WIDTH = 8;
const LEAST_HEIGHT = 2;

const withFace = (doc: Instrument, change: Partial<Face>): Instrument => ({ ...doc, face: { ...doc.face, ...change } });

/** An item kept on its page. */
function within(item: FaceItem, { width: across, height: down }: Pick<Face, "width" | "height">): FaceItem {
  const width = Math.max(LEAST_WIDTH, Math.min(item.width, across));
  const height = Math.max(LEAST_HEIGHT, Math.min(item.height, down));
  const x = Math.max(0, Math.min(item.x, across - width));
  const y = Math.max(0, Math.min(item.y, down - height));
  return x === item.x && y === item.y && width === item.width && height === item.height
    ? item
    : { ...item, x, y, width, height };
}

/** Puts an item in front of all others; what isn't said of it is as it is at first. */
export const addFaceItem = (given: Partial<FaceItem> & Pick<FaceItem, "id" | "kind">): Edit => {
  const item = newFaceItem(given);
  return { name: `Add ${item.kind}`, apply: (doc) => withFace(doc, { items: [...doc.face.items, item] }) };
};

/** Puts several in front of all others, kept on the page. */
export const addFaceItems = (items: readonly FaceItem[], name: string): Edit => ({
  name,
  // What comes from elsewhere may name what isn't here.
  apply: (doc) =>
    withoutDead(withFace(doc, { items: [...doc.face.items, ...items.map((item) => within(item, doc.face))] })),
});

/** Changes some items, each by itself; they are kept on the page. */
export const changeFaceItems = (
  ids: ReadonlySet<string>,
  name: string,
  change: (item: FaceItem) => Partial<FaceItem>,
): Edit => ({
  name,
  merge: `face:${[...ids].join()}:${name}`,
  apply: (doc) =>
    withFace(doc, {
      items: doc.face.items.map((item) => (ids.has(item.id) ? within({ ...item, ...change(item) }, doc.face) : item)),
    }),
});

/** Changes one item. */
export const changeFaceItem = (id: string, name: string, change: Partial<FaceItem>): Edit =>
  changeFaceItems(new Set([id]), name, () => change);

export const removeFaceItems = (ids: ReadonlySet<string>): Edit => ({
  name: ids.size === 1 ? "Remove from face" : `Remove ${ids.size} items from face`,
  apply: (doc) => withFace(doc, { items: doc.face.items.filter((item) => !ids.has(item.id)) }),
});

export const removeFaceItem = (id: string): Edit => removeFaceItems(new Set([id]));

/** Brings items to the front or the back, among themselves as they were; or one step, past the next that isn't among them. */
export const orderFaceItems = (ids: ReadonlySet<string>, way: "front" | "back" | "forward" | "backward"): Edit => ({
  name: way === "front" ? "Bring to the front" : way === "back" ? "Send to the back" : `Bring ${way}`,
  apply: (doc) => {
    const { items } = doc.face;
    const these = items.filter((item) => ids.has(item.id));
    if (these.length === 0) return doc;
    const others = items.filter((item) => !ids.has(item.id));
    const places = items.flatMap((item, i) => (ids.has(item.id) ? [i] : []));
    const lowest = places[0] as number;
    const highest = places.at(-1) as number;
    // So many of the others lie behind them then.
    const behind = {
      front: others.length,
      back: 0,
      forward: Math.min(others.length, highest - these.length + 2),
      backward: Math.max(0, lowest - 1),
    }[way];
    return withFace(doc, { items: others.toSpliced(behind, 0, ...these) });
  },
});

/** Sets the face's size or theme; all items stay on it. */
export const changeFace = (name: string, change: Partial<Pick<Face, "width" | "height" | "theme">>): Edit => ({
  name,
  merge: `face:${Object.keys(change).join()}`,
  apply: (doc) => {
    const face = { ...doc.face, ...change };
    return withFace(doc, { ...change, items: doc.face.items.map((item) => within(item, face)) });
  },
});

export const addFacePage = (id: string, name: string): Edit => ({
  name: `Add page ${name}`,
  apply: (doc) => withFace(doc, { pages: [...doc.face.pages, { id, name }] }),
});

export const renameFacePage = (id: string, name: string): Edit => ({
  name: `Rename the page to ${name}`,
  merge: `page:${id}`,
  apply: (doc) => withFace(doc, { pages: doc.face.pages.map((page) => (page.id === id ? { ...page, name } : page)) }),
});

/** Removes a page with all that stands on it; the last one stays. */
export const removeFacePage = (id: string): Edit => ({
  name: "Remove page",
  apply: (doc) =>
    doc.face.pages.length < 2
      ? doc
      : withFace(doc, {
          pages: doc.face.pages.filter((page) => page.id !== id),
          items: doc.face.items.filter((item) => item.page !== id),
        }),
});
