import type { Group, Instrument, Zone } from "../../core/instrument";

/** What is stored under keys of its own, so that an edit writes only what it changed: `takes`, `samples`, `pictures` (of the face, with its fonts), `zones/<layer>/<group>/<n>`, and `rest`. */
export type Parts = ReadonlyMap<string, unknown>;

type Layer = Instrument["layers"][number];

/** Zones that are stored together: an edit of one zone among thousands writes so many. */
const TOGETHER = 256;

const piecesOf = ({ zones }: Group): number => Math.ceil(zones.length / TOGETHER);
const pieceOf = (zones: readonly Zone[], n: number): readonly Zone[] => zones.slice(n * TOGETHER, (n + 1) * TOGETHER);
const pieceName = (layer: Layer, group: Group, n: number): string => `zones/${layer.id}/${group.id}/${n}`;

function samePiece(a: readonly Zone[], b: readonly Zone[], n: number): boolean {
  const end = Math.min((n + 1) * TOGETHER, a.length);
  if (end !== Math.min((n + 1) * TOGETHER, b.length)) return false;
  for (let i = n * TOGETHER; i < end; i++) if (a[i] !== b[i]) return false;
  return true;
}

/** The document without what lies in the other parts. */
const restOf = (doc: Instrument): Instrument => ({
  ...doc,
  takes: [],
  samples: [],
  face: { ...doc.face, pictures: [], fonts: [] },
  layers: doc.layers.map((layer) => ({ ...layer, groups: layer.groups.map((g) => ({ ...g, zones: [] })) })),
});

/** Cuts a document into its parts. Given an earlier state of the same document, only the parts that have changed since then. */
export function splitDocument(doc: Instrument, before: Instrument | null = null): Parts {
  const parts = new Map<string, unknown>();
  if (doc.takes !== before?.takes) parts.set("takes", doc.takes);
  if (doc.samples !== before?.samples) parts.set("samples", doc.samples);
  const { pictures, fonts } = doc.face;
  if (pictures !== before?.face.pictures || fonts !== before.face.fonts) parts.set("pictures", { pictures, fonts });
  for (const layer of doc.layers) {
    const oldLayer = before?.layers.find((l) => l.id === layer.id);
    for (const group of layer.groups) {
      const old = oldLayer?.groups.find((g) => g.id === group.id)?.zones;
      if (old === group.zones) continue;
      for (let n = 0; n < piecesOf(group); n++)
        if (!old || !samePiece(group.zones, old, n)) parts.set(pieceName(layer, group, n), pieceOf(group.zones, n));
    }
  }
  parts.set("rest", restOf(doc));
  return parts;
}

/** The names of all parts of a document. */
export const partNames = (doc: Instrument): string[] => [
  "takes",
  "samples",
  "pictures",
  ...doc.layers.flatMap((layer) =>
    layer.groups.flatMap((group) => Array.from({ length: piecesOf(group) }, (_, n) => pieceName(layer, group, n))),
  ),
  "rest",
];

/** A document of its parts, as it was stored: it is yet to be migrated and checked. What isn't there is left out. */
export function joinDocument(parts: Parts): unknown {
  const rest = parts.get("rest") as Instrument;
  const zonesOf = (layer: Layer, group: Group): readonly Zone[] => {
    // Before they were stored in pieces, all zones of a layer lay together.
    const whole = parts.get(`zones/${layer.id}`) as Readonly<Record<string, readonly Zone[]>> | undefined;
    if (whole) return whole[group.id] ?? [];
    // A piece that is lost costs that piece.
    const names = [...parts.keys()].filter((name) => name.startsWith(`zones/${layer.id}/${group.id}/`));
    const at = (name: string) => Number(name.slice(name.lastIndexOf("/") + 1));
    return names.sort((a, b) => at(a) - at(b)).flatMap((name) => (parts.get(name) ?? []) as readonly Zone[]);
  };
  return {
    ...rest,
    takes: parts.get("takes") ?? [],
    samples: parts.get("samples") ?? [],
    // Before there were any they had no part of their own.
    face: { ...rest.face, ...(parts.get("pictures") as object | undefined) },
    layers: rest.layers.map((layer) => ({
      ...layer,
      groups: layer.groups.map((g) => ({ ...g, zones: zonesOf(layer, g) })),
    })),
  };
}
