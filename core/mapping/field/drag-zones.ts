import type { Instrument, Zone } from "../../instrument";

/** What of zones is dragged: all of them, or one of their edges. */
export type DraggedPart = "body" | "left" | "right" | "top" | "bottom";

/** How far: keys and velocities, and whether roots go along with the body. */
export interface ZoneDrag {
  readonly part: DraggedPart;
  readonly keys: number;
  readonly velocities: number;
  readonly roots: boolean;
}

type Edge = "keyLow" | "keyHigh" | "velLow" | "velHigh";
const EDGES: Readonly<Record<Exclude<DraggedPart, "body">, { readonly own: Edge; readonly beside: Edge }>> = {
  left: { own: "keyLow", beside: "keyHigh" },
  right: { own: "keyHigh", beside: "keyLow" },
  top: { own: "velHigh", beside: "velLow" },
  bottom: { own: "velLow", beside: "velHigh" },
};

const meets = (a: Zone, b: Zone, across: "key" | "vel"): boolean =>
  across === "key" ? a.keyLow <= b.keyHigh && b.keyLow <= a.keyHigh : a.velLow <= b.velHigh && b.velLow <= a.velHigh;

/** Zones that share a boundary with dragged ones: those that end there too, and those that begin behind it. */
export interface Boundary {
  readonly along: ReadonlySet<string>;
  readonly beside: ReadonlySet<string>;
}

/**
 * The zones of the same groups that lie at a boundary which an edge of the dragged ones is part of, so that it can be moved for all of them: whoever meets
 * one of them there, and whoever meets those.
 */
export function zonesBeside(instrument: Instrument, ids: ReadonlySet<string>, part: DraggedPart): Boundary {
  const along = new Set<string>();
  const beside = new Set<string>();
  if (part === "body") return { along, beside };
  const { own, beside: other } = EDGES[part];
  const step = own === "keyHigh" || own === "velHigh" ? 1 : -1;
  const across = own.startsWith("key") ? "vel" : "key";
  for (const layer of instrument.layers) {
    for (const { zones } of layer.groups) {
      const dragged = zones.filter((z) => ids.has(z.id));
      for (const at of new Set(dragged.map((z) => z[own]))) {
        const before = zones.filter((z) => z[own] === at);
        const behind = zones.filter((z) => z[other] === at + step && !ids.has(z.id));
        // From the dragged ones to and fro over the boundary, until nobody new is met.
        let met = dragged.filter((z) => z[own] === at);
        for (let back = false; met.length > 0; back = !back) {
          const [from, into] = back ? [before, along] : [behind, beside];
          const found = from.filter((z) => !into.has(z.id) && !ids.has(z.id) && met.some((m) => meets(m, z, across)));
          for (const zone of found) into.add(zone.id);
          met = found;
        }
      }
    }
  }
  return { along, beside };
}

/** A number of steps kept so that every one of some places stays within its limits. */
function kept(steps: number, places: Iterable<{ at: number; low: number; high: number }>): number {
  let [least, most] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
  for (const { at, low, high } of places) {
    least = Math.max(least, low - at);
    most = Math.min(most, high - at);
  }
  return Math.max(Math.min(0, least), Math.min(Math.max(0, most), steps));
}

/** Zones after a drag, by id: those that were taken hold of and those beside them, all from where they stood. All stop where the first of them must. */
export function dragZones(
  dragged: Iterable<Zone>,
  beside: Iterable<Zone>,
  { part, keys, velocities, roots }: ZoneDrag,
): Map<string, Zone> {
  const own = [...dragged];
  const neighbours = [...beside];
  const moved = new Map<string, Zone>();
  if (part === "body") {
    const across = kept(
      keys,
      own.flatMap((z) => [
        { at: z.keyLow, low: 0, high: 127 - (z.keyHigh - z.keyLow) },
        ...(roots ? [{ at: z.root, low: 0, high: 127 }] : []),
      ]),
    );
    const up = kept(
      velocities,
      own.map((z) => ({ at: z.velLow, low: 1, high: 127 - (z.velHigh - z.velLow) })),
    );
    for (const zone of own)
      moved.set(zone.id, {
        ...zone,
        keyLow: zone.keyLow + across,
        keyHigh: zone.keyHigh + across,
        velLow: zone.velLow + up,
        velHigh: zone.velHigh + up,
        root: roots ? zone.root + across : zone.root,
      });
    return moved;
  }
  const edge = EDGES[part];
  const ofKeys = edge.own.startsWith("key");
  const by = kept(ofKeys ? keys : velocities, [
    ...own.map((z) => limits(z, edge.own)),
    ...neighbours.map((z) => limits(z, edge.beside)),
  ]);
  for (const zone of own) moved.set(zone.id, { ...zone, [edge.own]: zone[edge.own] + by });
  for (const zone of neighbours) moved.set(zone.id, { ...zone, [edge.beside]: zone[edge.beside] + by });
  return moved;
}

/** Where an edge may go so that its zone keeps a key and a velocity. */
function limits(zone: Zone, edge: Edge): { at: number; low: number; high: number } {
  switch (edge) {
    case "keyLow":
      return { at: zone.keyLow, low: 0, high: zone.keyHigh };
    case "keyHigh":
      return { at: zone.keyHigh, low: zone.keyLow, high: 127 };
    case "velLow":
      return { at: zone.velLow, low: 1, high: zone.velHigh };
    case "velHigh":
      return { at: zone.velHigh, low: zone.velLow, high: 127 };
  }
}

/** Zones moved up by some keys with their roots, for a copy at the next note; as far as all of them go. */
export const shiftedCopy = (zones: readonly Zone[], keys: number): Zone[] => {
  const moved = dragZones(zones, [], { part: "body", keys, velocities: 0, roots: true });
  return zones.map((z) => moved.get(z.id) ?? z);
};
