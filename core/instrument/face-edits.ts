import type { Edit } from "./edit";
import type { FaceItem } from "./instrument";

export const addFaceItem = (item: FaceItem): Edit => ({
  name: `Add ${item.kind}`,
  apply: (doc) => ({ ...doc, face: { ...doc.face, items: [...doc.face.items, item] } }),
});

/** Changes an item; it is kept on the page. */
export const changeFaceItem = (id: string, name: string, change: Partial<FaceItem>): Edit => ({
  name,
  merge: `face:${id}:${name}`,
  apply: (doc) => ({
    ...doc,
    face: {
      ...doc.face,
      items: doc.face.items.map((item) => {
        if (item.id !== id) return item;
        const next = { ...item, ...change };
        const width = Math.max(24, Math.min(next.width, doc.face.width));
        const height = Math.max(16, Math.min(next.height, doc.face.height));
        return {
          ...next,
          width,
          height,
          x: Math.max(0, Math.min(next.x, doc.face.width - width)),
          y: Math.max(0, Math.min(next.y, doc.face.height - height)),
        };
      }),
    },
  }),
});

export const removeFaceItem = (id: string): Edit => ({
  name: "Remove from face",
  apply: (doc) => ({ ...doc, face: { ...doc.face, items: doc.face.items.filter((item) => item.id !== id) } }),
});
