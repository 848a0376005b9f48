import type { FaceItem, Instrument } from "./instrument";

/** All parameters that an item moves, its first one first. */
export const bindsOf = ({ bind, also }: Pick<FaceItem, "bind" | "also">): readonly string[] =>
  bind === null ? also : [bind, ...also];

/** Everything that an item names: what it moves, and what decides whether it is shown. */
export const namesOf = (item: FaceItem): readonly string[] =>
  item.when ? [...bindsOf(item), item.when.address] : bindsOf(item);

/** An item that moves these, the first of them first. */
export const boundTo = (item: FaceItem, binds: readonly string[]): FaceItem => {
  const [bind = null, ...also] = binds;
  return { ...item, bind, also };
};

/**
 * An item with other names for what it names; those that are null are gone: what it moved moves nothing there, and a condition holds no longer. The same
 * object where nothing changes.
 */
export function renamedIn(item: FaceItem, named: (address: string) => string | null): FaceItem {
  let next = item;
  const binds = bindsOf(item);
  const kept = binds.flatMap((bind) => named(bind) ?? []);
  if (kept.length !== binds.length || kept.some((bind, i) => bind !== binds[i])) next = boundTo(item, kept);
  if (!item.when) return next;
  const address = named(item.when.address);
  if (address === item.when.address) return next;
  return { ...next, when: address === null ? null : { ...item.when, address } };
}

/** The document with other names for all that its face names. */
export function faceRenamed(doc: Instrument, named: (address: string) => string | null): Instrument["face"] {
  const items = doc.face.items.map((item) => renamedIn(item, named));
  return items.every((item, i) => item === doc.face.items[i]) ? doc.face : { ...doc.face, items };
}
