import { type FaceItem, findParam, type Instrument, moving, newFaceItem } from "../instrument";
import { bindables } from "./bindable";

/** A way in which a face is made by itself. */
export type FacePlan = "row" | "poster" | "desk";

export const FACE_PLANS: readonly { readonly id: FacePlan; readonly label: string; readonly help: string }[] = [
  { id: "row", label: "A row of dials", help: "The title, and what moves most beside each other." },
  { id: "poster", label: "A poster", help: "A large title to the left, what moves most to the right, the wave below." },
  { id: "desk", label: "A desk", help: "Sliders for the layers, dials for the macros, columns for partials, keys." },
];

/** Most controls that a face begins with. */
const MOST = 8;

/** What is worth a control: the macros, then what routes move, then the room and the layers' levels. */
function worthy(doc: Instrument): string[] {
  const moving = new Set(doc.routes.map((r) => r.source));
  const wanted = [
    // A macro that moves nothing yet is worth none.
    ...doc.macros.filter((m) => moving.has(`macros/${m.id}`)).map((m) => `macros/${m.id}/value`),
    ...doc.effects.map((u) => `effects/${u.id}/mix`),
    ...(doc.layers.length > 1 ? doc.layers.map((l) => `layers/${l.id}/strip/level`) : []),
    ...doc.layers.map((l) => `layers/${l.id}/stages/filter/cutoff`),
    ...doc.layers.flatMap((l) => [`layers/${l.id}/amp/attack`, `layers/${l.id}/amp/release`]),
  ];
  return [...new Set(wanted)].filter((address) => findParam(doc, address)?.spec.type === "number").slice(0, MOST);
}

/** The items of a face that is made from what an instrument has; `id` gives new ones. All stand on the first page, none on another. */
export function makeFace(doc: Instrument, plan: FacePlan, id: () => string): readonly FaceItem[] {
  const { width, height, pages } = doc.face;
  const page = pages[0]?.id ?? null;
  const made: FaceItem[] = [];
  const add = (item: Partial<FaceItem> & Pick<FaceItem, "kind" | "x" | "y" | "width" | "height">) =>
    made.push(newFaceItem({ ...item, id: id(), page }));
  const across = (share: number) => Math.round(width * share);
  const down = (share: number) => Math.round(height * share);
  const edge = across(0.06);
  const title = doc.about.name || "Untitled";
  const binds = worthy(doc);
  /** Items beside each other, as wide as there is room, at the most so wide. */
  const beside = (
    kind: FaceItem["kind"],
    list: readonly string[],
    box: { x: number; y: number; width: number; height: number },
    most: number,
  ) =>
    list.forEach((bind, i) => {
      const room = box.width / list.length;
      const own = Math.min(most, Math.floor(room) - 8);
      add({
        kind,
        moves: moving(bind),
        x: Math.round(box.x + i * room + (room - own) / 2),
        y: box.y,
        width: own,
        height: box.height,
      });
    });
  if (plan === "row") {
    add({ kind: "label", text: title, x: edge, y: down(0.1), width: width - 2 * edge, height: 44 });
    const rows = binds.length > 4 ? 2 : 1;
    const each = Math.ceil(binds.length / rows);
    for (let row = 0; row < rows; row++) {
      const list = binds.slice(row * each, (row + 1) * each);
      const tall = Math.floor((height * 0.68) / rows) - 12;
      beside("dial", list, { x: edge, y: down(0.3) + row * (tall + 12), width: width - 2 * edge, height: tall }, 120);
    }
  } else if (plan === "poster") {
    add({ kind: "label", text: title, x: edge, y: down(0.12), width: across(0.42), height: 56 });
    add({
      kind: "label",
      text: doc.about.maker,
      tone: "soft",
      x: edge,
      y: down(0.12) + 58,
      width: across(0.42),
      height: 24,
    });
    add({ kind: "scope", x: edge, y: down(0.52), width: across(0.42), height: down(0.34) });
    const half = Math.ceil(binds.length / 2);
    [binds.slice(0, half), binds.slice(half)].forEach((list, row) => {
      beside(
        "dial",
        list,
        { x: across(0.54), y: down(0.1) + row * down(0.43), width: across(0.42), height: down(0.38) },
        110,
      );
    });
  } else {
    add({ kind: "label", text: title, x: edge, y: down(0.06), width: across(0.6), height: 36 });
    add({ kind: "meter", x: across(0.7), y: down(0.06) + 6, width: width - edge - across(0.7), height: 24 });
    const columns = bindables(doc, "number", true).find((b) => b.addresses.length > 1 && b.id.endsWith("/level"));
    // The layers have sliders of their own, the envelope its corners.
    const dials = binds
      .filter((bind) => !bind.endsWith("/strip/level") && (columns || !bind.includes("/amp/")))
      .slice(0, 4);
    beside("dial", dials, { x: edge, y: down(0.22), width: across(0.44), height: down(0.32) }, 104);
    if (columns) {
      add({
        kind: "columns",
        moves: moving(...columns.addresses.slice(0, 32)),
        text: columns.label,
        x: across(0.54),
        y: down(0.22),
        width: across(0.4),
        height: down(0.32),
      });
    }
    // Where nothing has rows, the course of the first layer stands there.
    const envelope = bindables(doc, "number", true).find((b) => b.id.endsWith("/amp/*"));
    if (!columns && envelope)
      add({
        kind: "envelope",
        moves: moving(...envelope.addresses),
        text: "Course",
        x: across(0.54),
        y: down(0.22),
        width: across(0.4),
        height: down(0.32),
      });
    const levels = doc.layers.map((l) => `layers/${l.id}/strip/level`).slice(0, 6);
    levels.forEach((bind, i) => {
      const room = (width - 2 * edge) / levels.length;
      add({
        kind: "slider",
        form: "across",
        moves: moving(bind),
        x: Math.round(edge + i * room),
        y: down(0.6),
        width: Math.round(room) - 12,
        height: 44,
      });
    });
    add({ kind: "keys", x: edge, y: down(0.78), width: width - 2 * edge, height: down(0.17) });
  }
  return made.filter((item) => item.kind !== "label" || item.text !== "");
}
