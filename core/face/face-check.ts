import {
  addFaceItem,
  bindsOf,
  changeFaceItem,
  drawnPictures,
  type Edit,
  type FaceItem,
  findParam,
  type Instrument,
  newMove,
  removeFaceFont,
  removeFaceItem,
  removeFacePictures,
} from "../instrument";
import { plural } from "../params";
import { faceKind, isControl, isPlayed } from "./kinds";
import { framesFit } from "./picture-layers";
import { colourOf, contrast, faceTheme } from "./themes";

/** Something that is wrong with a face, with what puts it right where that is known. */
export interface FaceDoubt {
  readonly id: string;
  /** A sentence. */
  readonly text: string;
  readonly item: string | null;
  readonly page: string | null;
  readonly repair: { readonly label: string; readonly edit: Edit } | null;
}

/** Kinds whose text stands in one line as wide as they are. */
const WORDED: ReadonlySet<FaceItem["kind"]> = new Set([
  "dial",
  "slider",
  "number",
  "button",
  "random",
  "stepper",
  "xy",
]);

/** Width of a letter as a share of its height, in the mean. */
export const LETTER = 0.54;
/** Contrast that text needs, and large text and what moves (WCAG 2.2 AA). */
const TEXT = 4.5;
const LARGE = 3;
/** Pixels from which on text is large. */
const LARGE_FROM = 24;

/** The height of an item's letters, in pixels. */
export const lettersOf = ({ kind, height, look }: Pick<FaceItem, "kind" | "height" | "look">): number =>
  look.letters ?? (kind === "label" ? Math.min(48, height * 0.7) : 14);

/** What an item is called: by its own name, its text, what it moves, or its kind. */
export function itemName(doc: Instrument, item: FaceItem): string {
  if (item.name !== "") return item.name;
  if (item.text !== "") return item.text;
  const [first] = bindsOf(item);
  const found = first === undefined ? null : findParam(doc, first);
  return found ? `${faceKind(item.kind).label} ${found.label}` : faceKind(item.kind).label;
}

/** What is wrong with a face: what moves nothing, the same twice, what nobody can reach, touch or read, macros without a control. */
export function checkFace(doc: Instrument, id: () => string): readonly FaceDoubt[] {
  const { items, pages, theme, pictures } = doc.face;
  const doubts: FaceDoubt[] = [];
  const look = faceTheme(theme);
  const doubt = (what: string, item: FaceItem | null, text: string, repair: FaceDoubt["repair"] = null) =>
    doubts.push({ id: `${what}:${item?.id ?? ""}`, text, item: item?.id ?? null, page: item?.page ?? null, repair });
  const change = (item: FaceItem, label: string, fields: Partial<FaceItem>) => ({
    label,
    edit: changeFaceItem(item.id, label, fields),
  });
  const moving = new Set(doc.routes.filter((r) => r.on).map((r) => r.source));
  const movedBy = new Map<string, FaceItem>();
  for (const item of items) {
    const name = itemName(doc, item);
    const { touched = 0 } = faceKind(item.kind);
    if (isControl(item.kind)) {
      if (bindsOf(item).length === 0 && !isPlayed(item))
        doubt("unbound", item, `${name} moves nothing.`, { label: "Remove it", edit: removeFaceItem(item.id) });
      for (const bind of bindsOf(item)) {
        const idle = doc.macros.find((m) => bind === `macros/${m.id}/value` && !moving.has(`macros/${m.id}`));
        if (idle) doubt("idle", item, `${name} moves the macro ${idle.name}, which moves nothing: it has no route.`);
        const other = movedBy.get(bind);
        if (other && item.kind !== "random" && other.kind !== "random" && other.page === item.page)
          doubt("double", item, `${name} moves what ${itemName(doc, other)} moves already.`, {
            label: "Remove it",
            edit: removeFaceItem(item.id),
          });
        movedBy.set(bind, item);
      }
    }
    if (item.page !== null && !pages.some((p) => p.id === item.page))
      doubt(
        "lost",
        item,
        `${name} stands on a page that isn’t there.`,
        change(item, "Put it on the first page", { page: pages[0]?.id ?? null }),
      );
    if (item.hidden) doubt("hidden", item, `${name} is hidden.`, change(item, "Show it", { hidden: false }));
    if (Math.min(item.width, item.height) < touched)
      doubt(
        "small",
        item,
        `${name} is too small for a finger: ${touched} px at the least.`,
        change(item, "Make it larger", {
          width: Math.max(item.width, touched),
          height: Math.max(item.height, touched),
        }),
      );
    for (const { picture, frames } of item.pictures) {
      const found = pictures.find((p) => p.id === picture);
      if (!found || framesFit(found, frames)) continue;
      doubt(
        `frames-${picture}`,
        item,
        `${found.name} has no ${plural(frames, "frame")} of whole pixels: they will drift.`,
        change(item, "Draw it as it is", {
          pictures: item.pictures.map((l) => (l.picture === picture ? { ...l, does: "stays", frames: 1 } : l)),
        }),
      );
    }
    if (item.kind === "picture" && item.pictures.length === 0)
      doubt("empty", item, `${name} has no picture yet.`, { label: "Remove it", edit: removeFaceItem(item.id) });
    const room = WORDED.has(item.kind) && item.turn === 0 && item.pictures.length === 0 ? item.width : null;
    const needs = item.text.length * lettersOf(item) * LETTER;
    if (room !== null && needs > room * 1.1)
      doubt(
        "cut",
        item,
        `“${item.text.slice(0, 40)}” is cut off.`,
        change(item, "Make it wider", { width: Math.ceil(needs) }),
      );
    if (item.kind === "label") {
      const wide = item.text.length * lettersOf(item) * LETTER;
      if (wide > item.width * 1.06)
        doubt(
          "cut",
          item,
          `“${item.text.slice(0, 40)}” is cut off.`,
          change(item, "Make it wider", { width: Math.ceil(wide) }),
        );
      const ink = item.look.ink ?? colourOf(look, item.tone);
      // On a gradient the nearer of its ends counts; what a picture does nobody knows.
      const apart = Math.min(...groundsOf(doc.face).map((ground) => contrast(ink, ground)));
      if (apart < (lettersOf(item) >= LARGE_FROM ? LARGE : TEXT))
        doubt(
          "faint",
          item,
          `“${item.text.slice(0, 40)}” is hard to read on this ground: a contrast of ${apart.toFixed(1)}.`,
          change(item, "Write it in ink", { tone: "ink", look: { ...item.look, ink: null } }),
        );
    }
  }
  if (items.length > 0) {
    for (const macro of doc.macros.filter((m) => moving.has(`macros/${m.id}`))) {
      const bind = `macros/${macro.id}/value`;
      if (movedBy.has(bind)) continue;
      const [width, height] = faceKind("dial").size;
      doubt(`macro-${macro.id}`, null, `Nothing on the face moves the macro ${macro.name}.`, {
        label: "Add a dial",
        edit: addFaceItem({
          id: id(),
          kind: "dial",
          page: pages[0]?.id ?? null,
          moves: [newMove(bind)],
          width,
          height,
        }),
      });
    }
    const reaches = items.some((item) => item.kind === "page" && !item.hidden);
    // Pages that are shown by a value need nobody to go there.
    const lost = pages.slice(1).filter((page) => !page.when).length;
    if (lost > 0 && !reaches)
      doubt("pages", null, `Nobody reaches ${plural(lost, "page")}: nothing leads there.`, {
        label: "Add a row of pages",
        edit: addFaceItem({ id: id(), kind: "page", page: null, x: 16, y: 8, width: 260, height: 40 }),
      });
  }
  const drawn = drawnPictures(doc.face);
  for (const { id: picture, name } of pictures) {
    if (drawn.has(picture)) continue;
    doubt(`unused-${picture}`, null, `The picture ${name} is drawn nowhere.`, {
      label: "Remove it",
      edit: removeFacePictures(new Set([picture])),
    });
  }
  for (const { id: font, name, licence } of doc.face.fonts) {
    if (licence.trim() !== "") continue;
    doubt(
      `licence-${font}`,
      null,
      `The font ${name} doesn’t say under which licence it may be passed on: write it at Look.`,
      {
        label: "Remove the font",
        edit: removeFaceFont(font),
      },
    );
  }
  return doubts;
}

/** The colours that text may stand on. */
function groundsOf({ ground, theme }: Instrument["face"]): readonly string[] {
  if (ground.kind === "colour") return [ground.colour];
  return ground.kind === "gradient" ? [ground.colour, ground.second] : [faceTheme(theme).ground];
}

/** One edit for the repairs of all doubts that have one; null where none has. */
export const repairAll = (doubts: readonly FaceDoubt[]): Edit | null => {
  const edits = doubts.flatMap((d) => d.repair?.edit ?? []);
  return edits.length === 0
    ? null
    : { name: `Repair the face (${edits.length})`, apply: (doc) => edits.reduce((now, edit) => edit.apply(now), doc) };
};
