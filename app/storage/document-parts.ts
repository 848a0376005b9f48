import type { Instrument, Zone } from "../../core/instrument";

/** What is stored under keys of its own, so that an edit writes only what it changed: `takes`, `samples`, `zones/<layer>`, and `rest`. */
export type Parts = ReadonlyMap<string, unknown>;

/** A layer's zones by group. */
type ZonesOf = Readonly<Record<string, readonly Zone[]>>;

const zonesOf = (layer: Instrument["layers"][number]): ZonesOf =>
  Object.fromEntries(layer.groups.map((g) => [g.id, g.zones]));

const sameZones = (a: Instrument["layers"][number], b: Instrument["layers"][number]): boolean =>
  a.groups.length === b.groups.length &&
  a.groups.every((g, i) => g.id === b.groups[i]?.id && g.zones === b.groups[i]?.zones);

/** The document without what lies in the other parts. */
const restOf = (doc: Instrument): Instrument => ({
  ...doc,
  takes: [],
  samples: [],
  layers: doc.layers.map((layer) => ({ ...layer, groups: layer.groups.map((g) => ({ ...g, zones: [] })) })),
});

/** Cuts a document into its parts. Given an earlier state of the same document, only the parts that have changed since then. */
export function splitDocument(doc: Instrument, before: Instrument | null = null): Parts {
  const parts = new Map<string, unknown>();
  if (doc.takes !== before?.takes) parts.set("takes", doc.takes);
  if (doc.samples !== before?.samples) parts.set("samples", doc.samples);
  for (const layer of doc.layers) {
    const old = before?.layers.find((l) => l.id === layer.id);
    if (!old || !sameZones(layer, old)) parts.set(`zones/${layer.id}`, zonesOf(layer));
  }
  parts.set("rest", restOf(doc));
  return parts;
}

/** The names of all parts of a document. */
export const partNames = (doc: Instrument): string[] => [
  "takes",
  "samples",
  ...doc.layers.map((l) => `zones/${l.id}`),
  "rest",
];

/** A document of its parts, as it was stored: it is yet to be migrated and checked. What isn't there is left out. */
export function joinDocument(parts: Parts): unknown {
  const rest = parts.get("rest") as Instrument;
  return {
    ...rest,
    takes: parts.get("takes") ?? [],
    samples: parts.get("samples") ?? [],
    layers: rest.layers.map((layer) => {
      const zones = (parts.get(`zones/${layer.id}`) ?? {}) as ZonesOf;
      return { ...layer, groups: layer.groups.map((g) => ({ ...g, zones: zones[g.id] ?? [] })) };
    }),
  };
}
