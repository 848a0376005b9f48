import type { ParamValue } from "../params";
import { type UnitKind, unitSpec } from "../units";
import { copiedRoutes, freshIds, zoneIdsOf } from "./copies";
import { withoutDead } from "./dead-references";
import { newUnit, newZone } from "./defaults";
import type { Edit } from "./edit";
import type { Group, Instrument, Layer, Unit, Zone } from "./instrument";

/** The document with one layer changed. */
export const mapLayer = (doc: Instrument, id: string, change: (layer: Layer) => Layer): Instrument => ({
  ...doc,
  layers: doc.layers.map((layer) => (layer.id === id ? change(layer) : layer)),
});

/** The layers of a set, in their order: its choice counts among them. */
export const layersOfSet = (doc: Instrument, set: string): readonly Layer[] => doc.layers.filter((l) => l.set === set);

/** Which of a set's layers sounds; null where it has none. */
export function chosenLayer(doc: Instrument, set: Unit): Layer | null {
  const layers = layersOfSet(doc, set.id);
  return layers[Math.min(layers.length, Math.round(Number(set.params.selected))) - 1] ?? null;
}

/** The document with the same layers chosen as before, wherever they stand now. */
function stillChosen(doc: Instrument, before: Instrument): Instrument {
  const sets = doc.sets.map((set) => {
    const chosen = chosenLayer(before, set);
    const at = chosen ? layersOfSet(doc, set.id).findIndex((l) => l.id === chosen.id) : -1;
    return at < 0 || chosenLayer(doc, set)?.id === chosen?.id
      ? set
      : { ...set, params: { ...set.params, selected: at + 1 } };
  });
  return sets.every((set, i) => set === doc.sets[i]) ? doc : { ...doc, sets };
}

export const addLayer = (layer: Layer): Edit => ({
  name: `Add layer ${layer.name}`,
  apply: (doc) => ({ ...doc, layers: [...doc.layers, layer] }),
});

/** Removes a layer, and whatever names it; the last one stays. */
export const removeLayer = (id: string): Edit => ({
  name: "Remove layer",
  apply: (doc) =>
    doc.layers.length < 2
      ? doc
      : withoutDead(stillChosen({ ...doc, layers: doc.layers.filter((l) => l.id !== id) }, doc)),
});

/** Puts a copy of a layer behind it, its zones under ids of their own; what moves the layer's parameters moves the copy's as well. */
export const duplicateLayer = (id: string, copy: string, name: string): Edit => ({
  name: `Duplicate layer ${name}`,
  apply: (doc) => {
    const at = doc.layers.findIndex((l) => l.id === id);
    const layer = doc.layers[at];
    if (!layer) return doc;
    const zoneId = freshIds(zoneIdsOf(doc));
    const made: Layer = {
      ...layer,
      id: copy,
      name,
      groups: layer.groups.map((g) => ({ ...g, zones: g.zones.map((z) => ({ ...z, id: zoneId(z.id) })) })),
    };
    return {
      ...doc,
      layers: [...doc.layers.slice(0, at + 1), made, ...doc.layers.slice(at + 1)],
      routes: [...doc.routes, ...copiedRoutes(doc, `layers/${id}/`, `layers/${copy}/`)],
    };
  },
});

/** Moves a layer to another place among them. */
export const moveLayer = (id: string, to: number): Edit => ({
  name: "Move layer",
  apply: (doc) => {
    const layer = doc.layers.find((l) => l.id === id);
    if (!layer || doc.layers[to] === layer) return doc;
    const rest = doc.layers.filter((l) => l !== layer);
    return stillChosen({ ...doc, layers: [...rest.slice(0, to), layer, ...rest.slice(to)] }, doc);
  },
});

const WHAT = { name: "Rename layer", set: "Set layer set", mark: "Mark layer", note: "Note of layer" } as const;

/** Changes a layer's name, the set to which it belongs, its mark or its note. */
export const changeLayer = (id: string, change: Partial<Pick<Layer, keyof typeof WHAT>>): Edit => ({
  name: "name" in change ? `Rename layer to ${change.name}` : WHAT[Object.keys(change)[0] as keyof typeof WHAT],
  merge: `layer:${id}:${Object.keys(change).join()}`,
  apply: (doc) =>
    stillChosen(
      mapLayer(doc, id, (layer) => ({ ...layer, ...change })),
      doc,
    ),
});

/** A zone that answers all keys without a sample, for a layer whose sound is computed. */
function keysWithoutSample(doc: Instrument, layerId: string): Zone {
  const taken = zoneIdsOf(doc);
  let id = `${layerId.slice(0, 50)}-keys`;
  for (let n = 2; taken.has(id); n++) id = `${layerId.slice(0, 50)}-keys-${n}`;
  return newZone({ id, sample: null, end: 0 });
}

/** Whether a value of another kind of unit means something in this one. */
function fits(kind: UnitKind, id: string, value: ParamValue): boolean {
  const spec = unitSpec(kind).params.find((p) => p.id === id);
  if (spec?.type === "choice") return spec.choices.some((c) => c.id === value);
  return spec !== undefined && typeof value === "number" && value >= spec.min && value <= spec.max;
}

/**
 * Lets a layer's sound come from a source of another kind. What both kinds have stays set. A computed source plays over all keys where nothing is mapped;
 * zones without a sample go when samples are played again.
 */
export const setSource = (layerId: string, kind: UnitKind): Edit => ({
  name: `Use ${unitSpec(kind).label.toLowerCase()} as the source`,
  apply: (doc) => {
    const layer = doc.layers.find((l) => l.id === layerId);
    if (!layer || layer.source.kind === kind) return doc;
    const fresh = newUnit(kind, layer.source.id);
    const kept = Object.entries(layer.source.params).filter(([id, value]) => fits(kind, id, value));
    const source = { ...fresh, params: { ...fresh.params, ...Object.fromEntries(kept) } };
    const empty = layer.groups.every((g) => g.zones.length === 0);
    const groups = layer.groups.map((group, g): Group => {
      if (kind === "samples") return { ...group, zones: group.zones.filter((z) => z.sample !== null) };
      return empty && g === 0 ? { ...group, zones: [keysWithoutSample(doc, layerId)] } : group;
    });
    return withoutDead(mapLayer(doc, layerId, (l) => ({ ...l, source, groups })));
  },
});
