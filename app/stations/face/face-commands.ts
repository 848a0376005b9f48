import {
  ARRANGEMENT_LABELS,
  type Arrangement,
  around,
  arranged,
  FACE_PLANS,
  makeFace,
  nextBinding,
} from "../../../core/face";
import {
  addFaceItems,
  addFacePictures,
  bindsOf,
  boundTo,
  changeFaceItems,
  type FaceItem,
  type FacePicture,
  newFaceItem,
  orderFaceItems,
  removeFaceItems,
  sizeOfPage,
  together,
} from "../../../core/instrument";
import { plural } from "../../../core/params";
import { copied, copy } from "../../state/clipboard";
import type { Command } from "../../state/commands";
import { freshIds } from "../../state/face-adding";
import { choose, chosenIds, chosenItems, commitFace, faceShown, pageShown } from "../../state/face-selection";
import { freshId } from "../../state/ids";
import { tell } from "../../state/notices";
import { session } from "../../state/session";
import { setView } from "../../state/view";

/** Pixels by which a copy lies aside of what it was copied from. */
const ASIDE = 20;

const some = () => (chosenItems().length > 0 ? null : "select an item first");
const several = () => (chosenItems().length > 1 ? null : "select several first");
const chosen = () => new Set(chosenIds());

/** Puts copies of items on the page that is shown, and chooses them. */
function add(
  what: string,
  items: readonly FaceItem[],
  change: (item: FaceItem) => FaceItem = (item) => item,
  pictures: readonly FacePicture[] = [],
): void {
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
  // What comes from another instrument brings its pictures along.
  const there = new Set(instrument.face.pictures.map((p) => p.id));
  const brought = pictures.filter((p) => !there.has(p.id));
  const edits = [...(brought.length > 0 ? [addFacePictures(brought)] : []), addFaceItems(fresh, what)];
  commitFace(together(what, edits));
  choose(fresh.map((item) => item.id));
}

function remove(): void {
  if (chosenItems().length === 0) return;
  commitFace(removeFaceItems(new Set(chosenItems().map((item) => item.id))));
  choose([]);
}

function copyItems(): void {
  const items = chosenItems();
  if (items.length === 0) return;
  const drawn = new Set(items.flatMap((i) => [...i.pictures.map((l) => l.picture), ...i.when.map((w) => w.picture)]));
  const pictures = session.instrument?.face.pictures.filter((p) => drawn.has(p.id)) ?? [];
  copy({ kind: "face", items, pictures });
}

/** Room between what is chosen and its copies, in pixels. */
const BETWEEN = 8;

/** How far copies lie from what is chosen: beside it where there is room, else at the beginning of the line below, else aside. */
function beside(items: readonly FaceItem[]): { readonly x: number; readonly y: number } {
  const face = faceShown();
  const whole = items.length > 0 ? around(items) : null;
  if (!face || !whole) return { x: ASIDE, y: ASIDE };
  const { width, height } = sizeOfPage(face, pageShown());
  if (whole.x + 2 * whole.width + BETWEEN <= width) return { x: whole.width + BETWEEN, y: 0 };
  if (whole.y + 2 * whole.height + BETWEEN <= height)
    return { x: Math.min(ASIDE, width - whole.width) - whole.x, y: whole.height + BETWEEN };
  return { x: ASIDE, y: ASIDE };
}

/** Copies of what is chosen, each moving the next thing: the next partial, the next layer, the next macro. */
function duplicateOn(): void {
  const { instrument } = session;
  if (!instrument) return;
  let without = 0;
  const away = beside(chosenItems());
  add("Duplicate, moving the next", chosenItems(), (original) => {
    const item = { ...original, x: original.x - ASIDE + away.x, y: original.y - ASIDE + away.y };
    const binds = bindsOf(item).map((bind) => nextBinding(instrument, bind));
    if (binds.some((bind) => bind === null)) without++;
    return boundTo(
      item,
      binds.flatMap((bind) => bind ?? []),
    );
  });
  if (without > 0)
    tell("warning", `${plural(without, "copy", "copies")} found nothing further to move: bind it at the right.`);
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

/** What an item looks like, whatever it says and moves. */
let style: Pick<FaceItem, "kind" | "form" | "tone" | "width" | "height" | "look" | "pictures"> | null = null;

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
    run: () => {
      const clip = copied("face");
      if (clip) add("Paste", clip.items, (item) => item, clip.pictures);
    },
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
    label: "Select all of the page",
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
    label: "Copy its looks and size",
    why: some,
    run: () => {
      const [item] = chosenItems();
      if (!item) return;
      const { kind, form, tone, width, height, look, pictures } = item;
      style = { kind, form, tone, width, height, look, pictures };
    },
  },
  {
    id: "paste-style",
    label: "Give it the copied looks and size",
    why: () => (style ? some() : "no looks were copied"),
    run: () => {
      if (!style) return;
      const { kind, form, ...own } = style;
      // Another kind has other forms; of the pictures and fonts only those count that are here.
      const { pictures = [], fonts = [] } = session.instrument?.face ?? {};
      const there = new Set([...pictures, ...fonts].map((f) => f.id));
      const font = own.look.font !== null && there.has(own.look.font) ? own.look.font : null;
      const given = { ...own, look: { ...own.look, font }, pictures: own.pictures.filter((l) => there.has(l.picture)) };
      commitFace(
        changeFaceItems(chosen(), "Give looks and size", (item) => (item.kind === kind ? { ...given, form } : given)),
      );
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
