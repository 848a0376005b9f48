import {
  ARRANGEMENT_LABELS,
  type Arrangement,
  arranged,
  FACE_PLANS,
  faceKind,
  makeFace,
  nextBinding,
} from "../../../core/face";
import {
  addFaceItems,
  bindsOf,
  boundTo,
  changeFaceItems,
  type Face,
  type FaceItem,
  type FaceKind,
  type Instrument,
  newFaceItem,
  orderFaceItems,
  removeFaceItems,
  sizeOfPage,
  together,
} from "../../../core/instrument";
import { plural } from "../../../core/params";
import { copied, copy } from "../../state/clipboard";
import type { Command } from "../../state/commands";
import { freshId } from "../../state/ids";
import { tell } from "../../state/notices";
import { session } from "../../state/session";
import { setView } from "../../state/view";
import { choose, chosenIds, chosenItems, commitFace, faceShown, pageShown } from "./face-selection";

/** Pixels by which a copy lies aside of what it was copied from. */
const ASIDE = 20;

const some = () => (chosenItems().length > 0 ? null : "choose an item first");
const several = () => (chosenItems().length > 1 ? null : "choose several first");
const chosen = () => new Set(chosenIds());

/** Ids that nothing on the face has. */
export function freshIds(doc: Instrument): () => string {
  const taken = new Set(doc.face.items.map((item) => item.id));
  return () => {
    const id = freshId(taken);
    taken.add(id);
    return id;
  };
}

/** Puts copies of items on the page that is shown, and chooses them. */
function add(what: string, items: readonly FaceItem[], change: (item: FaceItem) => FaceItem = (item) => item): void {
  const { instrument } = session;
  if (!instrument || items.length === 0) return;
  const id = freshIds(instrument);
  const groups = new Map<string, string>();
  const fresh = items.map((item) => {
    if (item.group !== null && !groups.has(item.group)) groups.set(item.group, freshId());
    const group = item.group === null ? null : (groups.get(item.group) ?? null);
    const page = item.page === null ? null : pageShown();
    return change({ ...newFaceItem(item), id: id(), x: item.x + ASIDE, y: item.y + ASIDE, group, page });
  });
  commitFace(addFaceItems(fresh, what));
  choose(fresh.map((item) => item.id));
}

function remove(): void {
  if (chosenItems().length === 0) return;
  commitFace(removeFaceItems(new Set(chosenItems().map((item) => item.id))));
  choose([]);
}

const copyItems = (): void => {
  if (chosenItems().length > 0) copy({ kind: "face", items: chosenItems() });
};

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

/** Adds an item of a kind to the page that is shown, at a place or where there is room, and chooses it. */
export function addKind(
  kind: FaceKind,
  binds: readonly string[] = [],
  middle: { x: number; y: number } | null = null,
): void {
  const face = faceShown();
  const { instrument } = session;
  if (!instrument || !face) return;
  const page = pageShown();
  const { size, label, most } = faceKind(kind);
  const whole = sizeOfPage(face, page);
  const width = Math.min(size[0], whole.width);
  const height = Math.min(size[1], whole.height);
  const place = middle
    ? { x: Math.round(middle.x - width / 2), y: Math.round(middle.y - height / 2) }
    : freePlace(face, page, width, height);
  const item = boundTo(
    newFaceItem({
      id: freshIds(instrument)(),
      kind,
      page,
      ...place,
      width,
      height,
      text: kind === "label" ? "Text" : kind === "random" ? "Draw anew" : "",
    }),
    binds.slice(0, most),
  );
  commitFace(addFaceItems([item], `Add ${label.toLowerCase()}`));
  choose([item.id]);
  setView({ faceSide: "item" });
}

/** Copies of what is chosen, each moving the next thing: the next partial, the next layer, the next macro. */
function duplicateOn(): void {
  const { instrument } = session;
  if (!instrument) return;
  let without = 0;
  add("Duplicate, moving the next", chosenItems(), (item) => {
    const binds = bindsOf(item).map((bind) => nextBinding(instrument, bind));
    if (binds.some((bind) => bind === null)) without++;
    return boundTo(
      item,
      binds.flatMap((bind) => bind ?? []),
    );
  });
  if (without > 0)
    tell("doubt", `${plural(without, "copy", "copies")} found nothing further to move: bind it at the right.`);
}

/** What is chosen, in another order on the page. */
function arrange(how: Arrangement): void {
  const items = chosenItems().filter((item) => !item.locked);
  const boxes = arranged(items, how);
  const at = new Map(items.map((item, i) => [item.id, boxes[i]]));
  commitFace(
    changeFaceItems(new Set(items.map((i) => i.id)), ARRANGEMENT_LABELS[how], (item) => {
      const { x, y, width, height } = at.get(item.id) ?? item;
      return { x, y, width, height };
    }),
  );
}

const change = (
  id: string,
  label: string,
  fields: () => Partial<FaceItem>,
  why: () => string | null = some,
): Command => ({
  id,
  label,
  why,
  run: () => {
    const own = fields();
    commitFace(changeFaceItems(chosen(), label, () => own));
  },
});

/** The way in which items stand to each other: beside, above, behind. */
export const ARRANGE_COMMANDS: readonly Command[] = [
  ...(Object.keys(ARRANGEMENT_LABELS) as Arrangement[]).map((how) => ({
    id: how,
    label: ARRANGEMENT_LABELS[how],
    why: several,
    run: () => arrange(how),
  })),
];

let style: Pick<FaceItem, "form" | "tone" | "width" | "height"> | null = null;

/** What can be done with what is chosen on the face. */
export const FACE_COMMANDS: readonly Command[] = [
  { id: "copy", label: "Copy", chords: ["Mod+C"], why: some, run: copyItems },
  {
    id: "cut",
    label: "Cut out",
    chords: ["Mod+X"],
    why: some,
    run: () => {
      copyItems();
      remove();
    },
  },
  {
    id: "paste",
    label: "Paste",
    chords: ["Mod+V"],
    why: () => (copied("face") ? null : "no item was copied"),
    run: () => add("Paste", copied("face")?.items ?? []),
  },
  { id: "duplicate", label: "Duplicate", chords: ["Mod+D"], why: some, run: () => add("Duplicate", chosenItems()) },
  {
    id: "duplicate-on",
    label: "Duplicate, moving the next thing",
    chords: ["Mod+Shift+D"],
    why: some,
    run: duplicateOn,
  },
  {
    id: "all",
    label: "Choose all of the page",
    chords: ["Mod+A"],
    run: () => {
      const page = pageShown();
      choose((session.instrument?.face.items ?? []).filter((i) => i.page === page || i.page === null).map((i) => i.id));
    },
  },
  { id: "front", label: "Bring to the front", why: some, run: () => commitFace(orderFaceItems(chosen(), "front")) },
  {
    id: "forward",
    label: "Bring forward",
    chords: ["Alt+ArrowUp"],
    why: some,
    run: () => commitFace(orderFaceItems(chosen(), "forward")),
  },
  {
    id: "backward",
    label: "Send backward",
    chords: ["Alt+ArrowDown"],
    why: some,
    run: () => commitFace(orderFaceItems(chosen(), "backward")),
  },
  { id: "back", label: "Send to the back", why: some, run: () => commitFace(orderFaceItems(chosen(), "back")) },
  change("group", "Group", () => ({ group: freshId() }), several),
  change("ungroup", "Ungroup", () => ({ group: null })),
  change("lock", "Lock", () => ({ locked: true })),
  change("unlock", "Unlock", () => ({ locked: false })),
  change("hide", "Hide", () => ({ hidden: true })),
  change("show", "Show", () => ({ hidden: false })),
  {
    id: "copy-style",
    label: "Copy its form and size",
    why: some,
    run: () => {
      const [item] = chosenItems();
      if (item) style = { form: item.form, tone: item.tone, width: item.width, height: item.height };
    },
  },
  {
    id: "paste-style",
    label: "Give it the copied form and size",
    why: () => (style ? some() : "no form was copied"),
    run: () => {
      const own = style;
      if (own) commitFace(changeFaceItems(chosen(), "Give form and size", () => own));
    },
  },
  { id: "remove", label: "Remove", chords: ["Delete", "Backspace"], why: some, run: remove },
];

/** Faces that are made from the instrument: in place of what stands on the first page. */
export const PLAN_COMMANDS: readonly Command[] = FACE_PLANS.map(({ id, label }) => ({
  id: `plan-${id}`,
  label,
  run: () => {
    const { instrument } = session;
    if (!instrument) return;
    const [first] = instrument.face.pages;
    const old = new Set(instrument.face.items.filter((i) => i.page === (first?.id ?? null)).map((i) => i.id));
    const items = makeFace(instrument, id, freshIds(instrument));
    // On other screens it stands where its anchors lead.
    session.commit(together(`Make a face: ${label.toLowerCase()}`, [removeFaceItems(old), addFaceItems(items, label)]));
    choose([]);
    setView({ facePage: first?.id ?? null });
    if (old.size > 0) tell("good", `${plural(old.size, "item")} made way for it: undo brings them back.`);
  },
}));
