import { unitSpec } from "../units";
import { byIdentity } from "./by-identity";
import type { Instrument, Layer, Unit } from "./instrument";

/** The sound of a layer led into a unit of another, note by note or as its sum: by the unit's address, and the layers' ids. */
export interface LayerLink {
  readonly address: string;
  readonly from: string;
  readonly to: string;
  readonly as: "notes" | "sum";
}

const linksIn = ({ id, source, stages, inserts }: Layer): LayerLink[] => {
  const link = (unit: Unit, address: string): LayerLink[] => {
    const { links } = unitSpec(unit.kind);
    return unit.from !== undefined && links ? [{ address, from: unit.from, to: id, as: links }] : [];
  };
  return [
    ...link(source, `layers/${id}/source`),
    ...stages.flatMap((unit) => link(unit, `layers/${id}/stages/${unit.id}`)),
    ...inserts.flatMap((unit) => link(unit, `layers/${id}/inserts/${unit.id}`)),
  ];
};

/** Every link between layers that can sound, in the order of the document, and those that can't: they would close a ring. Voices are computed before sums, so that each kind is looked at by itself. */
const sortedLinks = byIdentity((layers: readonly Layer[]) => {
  const live: LayerLink[] = [];
  const rings: LayerLink[] = [];
  const ids = new Set(layers.map((l) => l.id));
  const reaches = (as: LayerLink["as"], from: string, to: string): boolean =>
    from === to || live.some((link) => link.as === as && link.from === from && reaches(as, link.to, to));
  for (const link of layers.flatMap(linksIn)) {
    if (!ids.has(link.from)) continue;
    (reaches(link.as, link.to, link.from) ? rings : live).push(link);
  }
  return { live, rings };
});

/** The links between layers that can sound. */
export const liveLinks = (doc: Pick<Instrument, "layers">): readonly LayerLink[] => sortedLinks(doc.layers).live;

/** Why the layer that a unit names can't be heard in it, as a sentence; null where it can, or none is named. */
export function linkProblem(doc: Instrument, address: string): string | null {
  const ring = sortedLinks(doc.layers).rings.find((link) => link.address === address);
  if (!ring) return null;
  const name = doc.layers.find((l) => l.id === ring.from)?.name ?? ring.from;
  if (ring.from === ring.to)
    return ring.as === "notes" ? "A layer can’t be its own input." : "A layer hears itself anyway: select none.";
  return `${name} hears this layer already: it would be a feedback loop.`;
}
