import { type Bindable, faceKind, itemName, movesRow } from "../../core/face";
import {
  addFaceItems,
  bindsOf,
  boundTo,
  changeFaceItem,
  type Edit,
  type Face,
  type FaceItem,
  type FaceKind,
  findParam,
  type Instrument,
  newFaceItem,
  sizeOfPage,
  together,
} from "../../core/instrument";
import { plural } from "../../core/params";
import { choose, commitFace, faceShown, pageShown } from "./face-selection";
import { freshId } from "./ids";
import { tell } from "./notices";
import { session } from "./session";
import { setView } from "./view";

/** As what a parameter is carried when it is dragged by its name, from any station: its address. */
export const PARAM_DRAG = "application/x-vise-parameter";

/** Ids that nothing on the face has. */
export function freshIds(doc: Instrument): () => string {
  const taken = new Set(doc.face.items.map((item) => item.id));
  return () => {
    const id = freshId(taken);
    taken.add(id);
    return id;
  };
}

/** The kind of control that something is best moved by. */
function kindFor(doc: Instrument, addresses: readonly string[]): FaceKind {
  if (addresses.length > 1) return addresses.every((a) => !a.includes("/rows/")) ? "envelope" : "columns";
  const spec = findParam(doc, addresses[0] ?? "")?.spec;
  if (spec?.type === "choice") return spec.choices.length === 2 ? "switch" : "choice";
  return spec?.type === "number" && spec.unit === "switch" ? "switch" : "dial";
}

/** The place for an item on a page that hides least of the others, row by row. */
function freePlace(face: Face, page: string | null, width: number, height: number): { x: number; y: number } {
  const there = face.items.filter((item) => item.page === page || item.page === null);
  let best = { x: 0, y: 0, hides: Number.POSITIVE_INFINITY };
  // Of a large page with thousands of items not every place is looked at.
  const { width: across, height: down } = sizeOfPage(face, page);
  const step = Math.max(20, Math.ceil(Math.max(across, down) / 40));
  for (let y = step; y + height <= down; y += step) {
    for (let x = step; x + width <= across; x += step) {
      let hides = 0;
      for (const i of there)
        hides +=
          Math.max(0, Math.min(x + width, i.x + i.width) - Math.max(x, i.x)) *
          Math.max(0, Math.min(y + height, i.y + i.height) - Math.max(y, i.y));
      if (hides === 0) return { x, y };
      if (hides < best.hides) best = { x, y, hides };
    }
  }
  return { x: best.x, y: best.y };
}

/** An item that is to be added: of what kind, what it moves, where its middle is to be (null: where there is room), and what else is said of it. */
interface Added {
  readonly kind: FaceKind;
  readonly binds?: readonly string[];
  readonly middle?: { readonly x: number; readonly y: number } | null;
  readonly more?: Partial<FaceItem>;
}

/** Adds an item of a kind to the page that is shown, at a place or where there is room, and chooses it. */
export const addKind = (kind: FaceKind, binds: readonly string[] = [], middle: Added["middle"] = null): void =>
  addAll([{ kind, binds, middle }]);

/** Adds several items to the page that is shown, in one step with what they need (`first`), and chooses them. */
export function addAll(added: readonly Added[], first: readonly Edit[] = []): void {
  const face = faceShown();
  const { instrument } = session;
  const [one] = added;
  if (!instrument || !face || !one) return;
  const page = pageShown();
  const whole = sizeOfPage(face, page);
  const idOf = freshIds(instrument);
  const items = added.map(({ kind, binds = [], middle = null, more = {} }) => {
    const { size, most } = faceKind(kind);
    const width = Math.min(more.width ?? size[0], whole.width);
    const height = Math.min(more.height ?? size[1], whole.height);
    const place = middle
      ? { x: Math.round(middle.x - width / 2), y: Math.round(middle.y - height / 2) }
      : freePlace(face, page, width, height);
    const text = kind === "label" ? "Text" : kind === "random" ? "Redraw" : "";
    const item = newFaceItem({ id: idOf(), kind, page, text, ...more, ...place, width, height });
    return boundTo(item, binds.slice(0, most));
  });
  const label = faceKind(one.kind).label.toLowerCase();
  const name = items.length === 1 ? `Add ${label}` : `Add ${plural(items.length, label)}`;
  commitFace(together(name, [...first, addFaceItems(items, name)]));
  choose(items.map((item) => item.id));
  setView({ faceSide: "item" });
}

/** Binds an item to something that was dropped on it. */
export function bindItem(item: FaceItem, { addresses, label }: Pick<Bindable, "addresses" | "label">): void {
  const { most, takes, label: kind } = faceKind(item.kind);
  const spec = session.instrument && findParam(session.instrument, addresses[0] ?? "")?.spec;
  if (takes === "nothing" || (spec && takes !== "any" && spec.type !== takes)) {
    tell("warning", `${kind} can't move ${label}.`);
    return;
  }
  // What has one place moves this instead; what moves many moves this, too.
  const binds = movesRow(item.kind) && addresses.length === 1 ? [...bindsOf(item), ...addresses] : addresses;
  const { moves } = boundTo(item, [...new Set(binds)].slice(0, most));
  commitFace(changeFaceItem(item.id, `Bind to ${label}`, { moves }));
  choose([item.id]);
}

/** Puts a control for some parameters on the page that is shown, at a place or where there is room: of the kind that suits them. */
export function addFor(addresses: readonly string[], middle: { x: number; y: number } | null = null): void {
  const { instrument } = session;
  if (instrument) addKind(kindFor(instrument, addresses), addresses, middle);
}

/** Puts a control for a parameter that was dragged here from another station on the face. */
export function addFromElsewhere(address: string): void {
  const { instrument } = session;
  const found = instrument && findParam(instrument, address);
  if (!instrument || !found) return;
  addFor([address]);
  const item = session.instrument?.face.items.at(-1);
  // Where another tab has the instrument nothing was added, which was told.
  if (item && session.instrument?.face !== instrument.face)
    tell("good", `${itemName(session.instrument ?? instrument, item)} stands on the face now.`);
}
