import { withoutDead } from "./dead-references";
import type { Edit } from "./edit";
import { newFaceItem, newPage } from "./face-defaults";
import type { Face, FaceFont, FaceItem, FacePage, FacePicture, FaceSize } from "./face-model";
import type { Instrument } from "./instrument";

/** Smallest that an item can be, in pixels. */
const LEAST_WIDTH = 8;
const LEAST_HEIGHT = 2;

const withFace = (doc: Instrument, change: Partial<Face>): Instrument => ({ ...doc, face: { ...doc.face, ...change } });

/** How large a page is, in pixels; what stands on all pages has the face's size for its page. */
export function sizeOfPage(face: Pick<Face, "width" | "height" | "pages">, page: string | null): FaceSize {
  const own = page === null ? undefined : face.pages.find((p) => p.id === page);
  return { width: own?.width ?? face.width, height: own?.height ?? face.height };
}

/** An item kept on its page. */
function within(item: FaceItem, face: Pick<Face, "width" | "height" | "pages">): FaceItem {
  const { width: across, height: down } = sizeOfPage(face, item.page);
  const width = Math.max(LEAST_WIDTH, Math.min(item.width, across));
  const height = Math.max(LEAST_HEIGHT, Math.min(item.height, down));
  const x = Math.max(0, Math.min(item.x, across - width));
  const y = Math.max(0, Math.min(item.y, down - height));
  return x === item.x && y === item.y && width === item.width && height === item.height
    ? item
    : { ...item, x, y, width, height };
}

const allWithin = (face: Face): Face => ({ ...face, items: face.items.map((item) => within(item, face)) });

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

/** Puts an item directly in front of another; null: behind all. */
export const placeFaceItem = (id: string, before: string | null): Edit => ({
  name: "Change the order on the face",
  apply: (doc) => {
    const item = doc.face.items.find((i) => i.id === id);
    if (!item || id === before) return doc;
    const others = doc.face.items.filter((i) => i.id !== id);
    return withFace(doc, { items: others.toSpliced(others.findIndex((i) => i.id === before) + 1, 0, item) });
  },
});

/** Sets something of the whole face, such as its size, theme or ground; all items stay on their pages. */
export const changeFace = (name: string, change: Partial<Omit<Face, "items" | "pages">>): Edit => ({
  name,
  merge: `face:${Object.keys(change).join()}`,
  apply: (doc) => ({ ...doc, face: allWithin({ ...doc.face, ...change }) }),
});

export const addFacePage = (id: string, name: string): Edit => ({
  name: `Add page ${name}`,
  apply: (doc) => withFace(doc, { pages: [...doc.face.pages, newPage(id, name)] }),
});

/** Sets something of a page; all items stay on it. */
export const changeFacePage = (id: string, name: string, change: Partial<Omit<FacePage, "id">>): Edit => ({
  name,
  merge: `page:${id}:${Object.keys(change).join()}`,
  apply: (doc) => {
    const pages = doc.face.pages.map((page) => (page.id === id ? { ...page, ...change } : page));
    return { ...doc, face: allWithin({ ...doc.face, pages }) };
  },
});

export const renameFacePage = (id: string, name: string): Edit =>
  changeFacePage(id, `Rename the page to ${name}`, { name });

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

/** Puts pictures beside those that the face has. */
export const addFacePictures = (pictures: readonly FacePicture[]): Edit => ({
  name: pictures.length === 1 ? `Add picture ${pictures[0]?.name}` : `Add ${pictures.length} pictures`,
  apply: (doc) => withFace(doc, { pictures: [...doc.face.pictures, ...pictures] }),
});

/** Removes pictures, wherever they are drawn. */
export const removeFacePictures = (ids: ReadonlySet<string>): Edit => ({
  name: ids.size === 1 ? "Remove picture" : `Remove ${ids.size} pictures`,
  apply: (doc) => {
    const { face } = doc;
    const gone = (id: string | null): boolean => id !== null && ids.has(id);
    return withFace(doc, {
      pictures: face.pictures.filter((p) => !ids.has(p.id)),
      ground: gone(face.ground.picture) ? { ...face.ground, kind: "theme", picture: null } : face.ground,
      items: face.items.map((item) =>
        item.pictures.some((l) => gone(l.picture)) || item.when.some((w) => gone(w.picture))
          ? {
              ...item,
              pictures: item.pictures.filter((l) => !gone(l.picture)),
              when: item.when.filter((w) => !(w.does === "pictures" && gone(w.picture))),
            }
          : item,
      ),
    });
  },
});

/** Puts a font beside those that the face has. */
export const addFaceFont = (font: FaceFont): Edit => ({
  name: `Add font ${font.name}`,
  apply: (doc) => withFace(doc, { fonts: [...doc.face.fonts, font] }),
});

export const changeFaceFont = (id: string, change: Partial<Pick<FaceFont, "name" | "licence">>): Edit => ({
  name: "Set font",
  merge: `font:${id}:${Object.keys(change).join()}`,
  apply: (doc) => withFace(doc, { fonts: doc.face.fonts.map((f) => (f.id === id ? { ...f, ...change } : f)) }),
});

/** Removes a font; what was written in it is written as the theme has it. */
export const removeFaceFont = (id: string): Edit => ({
  name: "Remove font",
  apply: (doc) =>
    withFace(doc, {
      fonts: doc.face.fonts.filter((f) => f.id !== id),
      items: doc.face.items.map((i) => (i.look.font === id ? { ...i, look: { ...i.look, font: null } } : i)),
    }),
});
