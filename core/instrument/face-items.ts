import { newMove } from "./face-defaults";
import type { Face, FaceCondition, FaceItem, FacePage, Move } from "./face-model";
import type { Instrument } from "./instrument";

/** All parameters that an item moves, its first one first. */
export const bindsOf = ({ moves }: Pick<FaceItem, "moves">): readonly string[] => moves.map((m) => m.address);

/** Everything that an item names: what it moves, and what its conditions go by. */
export const namesOf = (item: FaceItem): readonly string[] => [...bindsOf(item), ...item.when.map((w) => w.address)];

/** An item that moves these, the first of them first: what it moved before keeps its range, what comes first anew has that of the first before. */
export const boundTo = (item: FaceItem, binds: readonly string[]): FaceItem => {
  const known = new Map(item.moves.map((m) => [m.address, m]));
  return { ...item, moves: [...new Set(binds)].map((address) => known.get(address) ?? newMove(address)) };
};

/** `change` of every member, without those of which it makes null; the very same list where nothing changes. */
function changed<T>(list: readonly T[], change: (member: T) => T | null): readonly T[] {
  const next = list.flatMap((member) => change(member) ?? []);
  return next.length === list.length && next.every((x, i) => x === list[i]) ? list : next;
}

/** Something that names an address, by another name; null where that is gone. */
const renamed =
  <T extends { readonly address: string }>(named: (address: string) => string | null) =>
  (part: T): T | null => {
    const address = named(part.address);
    return address === null ? null : address === part.address ? part : { ...part, address };
  };

/**
 * An item with other names for what it names; those that are null are gone: what it moved moves nothing there, and a condition holds no longer. The same
 * object where nothing changes.
 */
export function renamedIn(item: FaceItem, named: (address: string) => string | null): FaceItem {
  const moves = changed(item.moves, renamed<Move>(named));
  const when = changed(item.when, renamed<FaceCondition>(named));
  return moves === item.moves && when === item.when ? item : { ...item, moves, when };
}

/** A page with another name for what it goes by, as with items. */
export function renamedPage(page: FacePage, named: (address: string) => string | null): FacePage {
  if (!page.when) return page;
  const when = renamed<NonNullable<FacePage["when"]>>(named)(page.when);
  return when === page.when ? page : { ...page, when };
}

/** The document's face with other names for all that it names; the same object where nothing changes. */
export function faceRenamed({ face }: Instrument, named: (address: string) => string | null): Instrument["face"] {
  const items = changed(face.items, (item) => renamedIn(item, named));
  const pages = changed(face.pages, (page) => renamedPage(page, named));
  return items === face.items && pages === face.pages ? face : { ...face, items, pages };
}

/** The ids of all pictures that something of a face draws. */
export const drawnPictures = ({ items, ground }: Face): ReadonlySet<string> =>
  new Set(
    [
      ...items.flatMap((item) => [...item.pictures.map((l) => l.picture), ...item.when.map((w) => w.picture)]),
      ground.picture,
    ].flatMap((id) => id ?? []),
  );
