import type { FaceItem } from "../../../core/instrument";
import { session } from "../../state/session";
import { setView, useView } from "../../state/view";

/** The ids of what is chosen on the face, the first of them chosen last. */
export function chosenIds(): readonly string[] {
  const { faceItem, faceMore } = useView.getState();
  return faceItem === null ? [] : [faceItem, ...[...faceMore].filter((id) => id !== faceItem)];
}

/** The items that are chosen, from the back to the front. */
export function chosenItems(): readonly FaceItem[] {
  const ids = new Set(chosenIds());
  return (session.instrument?.face.items ?? []).filter((item) => ids.has(item.id));
}

/** Chooses these, the last of them as the one that is looked at. */
export const choose = (ids: readonly string[]): void =>
  setView({ faceItem: ids.at(-1) ?? null, faceMore: new Set(ids.slice(0, -1)) });

/** An item and those of its group. */
export function withGroup(id: string): readonly string[] {
  const items = session.instrument?.face.items ?? [];
  const group = items.find((item) => item.id === id)?.group ?? null;
  return group === null ? [id] : [...items.filter((i) => i.group === group && i.id !== id).map((i) => i.id), id];
}

/** Chooses an item beside those that are, or no longer. */
export function toggleChosen(id: string): void {
  const now = chosenIds();
  const these = withGroup(id);
  choose(now.includes(id) ? now.filter((i) => !these.includes(i)).reverse() : [...[...now].reverse(), ...these]);
}

/** The page that is shown: what was chosen, else the first. */
export const pageShown = (): string | null => {
  const pages = session.instrument?.face.pages ?? [];
  const { facePage } = useView.getState();
  return (pages.find((p) => p.id === facePage) ?? pages[0])?.id ?? null;
};
