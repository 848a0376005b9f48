import { faceRenamed } from "./face-items";
import type { Instrument, Route } from "./instrument";

/** Ids that are like others and new among `taken`, which takes them in: `spoke` becomes `spoke-2`. */
export function freshIds(taken: ReadonlySet<string>): (like: string) => string {
  const known = new Set(taken);
  return (like) => {
    let next = `${like.slice(0, 56)}-2`;
    for (let n = 3; known.has(next); n++) next = `${like.slice(0, 56)}-${n}`;
    known.add(next);
    return next;
  };
}

/** The ids of all zones. */
export const zoneIdsOf = (doc: Instrument): ReadonlySet<string> =>
  new Set(doc.layers.flatMap((l) => l.groups.flatMap((g) => g.zones.map((z) => z.id))));

/** For a copy of a part of the document: what moves the part's parameters, as it would move the copy's. Addresses of the part begin with `from`, of the copy with `to`. */
export function copiedRoutes(doc: Instrument, from: string, to: string): Route[] {
  const routeId = freshIds(new Set(doc.routes.map((r) => r.id)));
  return doc.routes
    .filter((r) => r.target.startsWith(from))
    .map((r) => ({ ...r, id: routeId(r.id), target: `${to}${r.target.slice(from.length)}` }));
}

/** The document with a part's addresses changed wherever it is named: routes and dials follow a part that moved. */
export function readdressed(doc: Instrument, from: string, to: string): Instrument {
  if (from === to) return doc;
  const moved = (address: string): string =>
    address.startsWith(from) ? `${to}${address.slice(from.length)}` : address;
  return {
    ...doc,
    routes: doc.routes.map((r) => (r.target.startsWith(from) ? { ...r, target: moved(r.target) } : r)),
    face: faceRenamed(doc, moved),
  };
}
