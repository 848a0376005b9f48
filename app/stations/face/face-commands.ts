import { addFaceItem, changeFaceItem, type FaceItem, removeFaceItem, together } from "../../../core/instrument";
import { copied, copy } from "../../state/clipboard";
import type { Command } from "../../state/commands";
import { freshId } from "../../state/ids";
import { session } from "../../state/session";
import { setView, useView } from "../../state/view";

/** Pixels by which a copy lies aside of what it was copied from. */
const ASIDE = 20;

const item = (): FaceItem | null => {
  const { faceItem } = useView.getState();
  return session.instrument?.face.items.find((i) => i.id === faceItem) ?? null;
};

const some = () => (item() ? null : "choose an item first");

/** Puts copies of items on the page and selects the last. */
function add(what: string, items: readonly FaceItem[]): void {
  const { instrument } = session;
  if (!instrument) return;
  const taken = new Set(instrument.face.items.map((i) => i.id));
  const fresh = items.map((i) => {
    const id = freshId(taken);
    taken.add(id);
    return { ...i, id, x: i.x + ASIDE, y: i.y + ASIDE };
  });
  const edits = fresh.flatMap((i) => [addFaceItem(i), changeFaceItem(i.id, what, {})]);
  session.commit(together(what, edits));
  setView({ faceItem: fresh.at(-1)?.id ?? null });
}

function remove(): void {
  const found = item();
  if (!found) return;
  session.commit(removeFaceItem(found.id));
  setView({ faceItem: null });
}

function copyItem(): void {
  const found = item();
  if (found) copy({ kind: "face", items: [found] });
}

/** What can be done with the item of the face that is selected. */
export const FACE_COMMANDS: readonly Command[] = [
  { id: "copy", label: "Copy", chords: ["Mod+C"], why: some, run: copyItem },
  {
    id: "cut",
    label: "Cut out",
    chords: ["Mod+X"],
    why: some,
    run: () => {
      copyItem();
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
  {
    id: "duplicate",
    label: "Duplicate",
    chords: ["Mod+D"],
    why: some,
    run: () => {
      const found = item();
      if (found) add("Duplicate", [found]);
    },
  },
  { id: "remove", label: "Remove", chords: ["Delete", "Backspace"], why: some, run: remove },
];
