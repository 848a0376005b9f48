import { unitSpec } from "../units";
import { changeUnit, findUnit } from "./address";
import { newUnit } from "./defaults";
import type { Edit } from "./edit";
import type { Instrument, Layer } from "./instrument";
import { type LayerLink, liveLinks } from "./links";
import { addUnit, removeUnit } from "./param-edits";

/** Where a layer stands in the picture of how layers are led into each other: columns from left to right, rows from above. */
export interface LinkPlace {
  readonly layer: string;
  readonly column: number;
  readonly row: number;
}

/** How layers are led into each other, to be drawn: who feeds stands to the left of who hears. */
export interface LinkPicture {
  readonly places: readonly LinkPlace[];
  readonly links: readonly LayerLink[];
  readonly columns: number;
  readonly rows: number;
}

/** Places for all layers: each as far to the right as the longest way that leads to it; in a column in the order of the document. */
export function linkPicture(layers: readonly Layer[]): LinkPicture {
  const links = liveLinks({ layers });
  // Each kind has no ring, both together may: what listens to a sum then stands where the voices' links put it.
  const used: LayerLink[] = [];
  const reaches = (from: string, to: string): boolean =>
    from === to || used.some((link) => link.from === from && reaches(link.to, to));
  for (const as of ["notes", "sum"] as const)
    for (const link of links) if (link.as === as && !reaches(link.to, link.from)) used.push(link);
  const columns = new Map<string, number>();
  const columnOf = (layer: string): number => {
    const known = columns.get(layer);
    if (known !== undefined) return known;
    const before = used.filter((link) => link.to === layer).map((link) => columnOf(link.from) + 1);
    const column = before.reduce((a, b) => Math.max(a, b), 0);
    columns.set(layer, column);
    return column;
  };
  const filled: number[] = [];
  const places = layers.map(({ id }): LinkPlace => {
    const column = columnOf(id);
    const row = filled[column] ?? 0;
    filled[column] = row + 1;
    return { layer: id, column, row };
  });
  return { places, links, columns: filled.length, rows: filled.reduce((a, b) => Math.max(a, b), 0) };
}

/** Whether leading a layer's voices into another would close a ring. */
export function wouldRing(doc: Pick<Instrument, "layers">, from: string, to: string): boolean {
  const notes = liveLinks(doc).filter((link) => link.as === "notes");
  const reaches = (a: string, b: string): boolean =>
    a === b || notes.some((link) => link.from === a && reaches(link.to, b));
  return reaches(to, from);
}

/** A unit into which a layer's voices can be led, by its address, and whether another is led there already. */
export interface LinkEntry {
  readonly address: string;
  readonly name: string;
  readonly source: boolean;
  readonly taken: boolean;
}

/** The units of a layer into which voices can be led. */
export const linkEntries = ({ id, source, stages }: Layer): readonly LinkEntry[] =>
  [
    { address: `layers/${id}/source`, unit: source },
    ...stages.map((unit) => ({ address: `layers/${id}/stages/${unit.id}`, unit })),
  ]
    .filter(({ unit }) => unitSpec(unit.kind).links === "notes")
    .map(({ address, unit }) => ({
      address,
      name: unit.name,
      source: unit === source,
      taken: unit.from !== undefined,
    }));

const nameOf = (doc: Instrument, layer: string): string => doc.layers.find((l) => l.id === layer)?.name ?? "a layer";

/** Leads a layer into a unit that takes one in. */
export const leadInto = (doc: Instrument, from: string, address: string): Edit => ({
  name: `Lead ${nameOf(doc, from)} into ${findUnit(doc, address)?.name ?? "a unit"}`,
  apply: (now) => changeUnit(now, address, (unit) => ({ ...unit, from })),
});

/** Adds a layer's voices to those of another before all its stages; `id`: of the stage that does it, new in that layer. */
export const feedInto = (doc: Instrument, from: string, to: string, id: string): Edit => {
  const list = `layers/${to}/stages` as const;
  const added = addUnit(list, { ...newUnit("feed", id, nameOf(doc, from)), from }, 0);
  return { ...added, name: `Feed ${nameOf(doc, from)} into ${nameOf(doc, to)}` };
};

/** Takes a link away again: a feed goes with it, any other unit stays. */
export function cutLink(doc: Instrument, address: string): Edit {
  const unit = findUnit(doc, address);
  const place = /^layers\/([^/]+)\/stages\/([^/]+)$/.exec(address);
  const name = `Lead ${unit?.from === undefined ? "no layer" : nameOf(doc, unit.from)} into ${unit?.name ?? "it"} no longer`;
  if (unit?.kind === "feed" && place) return { ...removeUnit(`layers/${place[1]}/stages`, place[2] as string), name };
  return { name, apply: (now) => changeUnit(now, address, ({ from: _before, ...rest }) => rest) };
}
