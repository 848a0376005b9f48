import { plural } from "../params";
import { type UnitKind, unitSpec } from "../units";
import { withoutDead } from "./dead-references";
import { newUnit, newZone } from "./defaults";
import type { Edit } from "./edit";
import type { Group, Instrument, Layer, Zone } from "./instrument";

const mapLayer = (doc: Instrument, id: string, change: (layer: Layer) => Layer): Instrument => ({
  ...doc,
  layers: doc.layers.map((layer) => (layer.id === id ? change(layer) : layer)),
});

export const addLayer = (layer: Layer): Edit => ({
  name: `Add layer ${layer.name}`,
  apply: (doc) => ({ ...doc, layers: [...doc.layers, layer] }),
});

/** Removes a layer, and whatever names it; the last one stays. */
export const removeLayer = (id: string): Edit => ({
  name: "Remove layer",
  apply: (doc) =>
    doc.layers.length < 2 ? doc : withoutDead({ ...doc, layers: doc.layers.filter((l) => l.id !== id) }),
});

/** Puts a copy of a layer behind it, its zones under ids of their own; what moves the layer's parameters moves the copy's as well. */
export const duplicateLayer = (id: string, copy: string, name: string): Edit => ({
  name: `Duplicate layer ${name}`,
  apply: (doc) => {
    const at = doc.layers.findIndex((l) => l.id === id);
    const layer = doc.layers[at];
    if (!layer) return doc;
    const taken = new Set(doc.layers.flatMap((l) => l.groups.flatMap((g) => g.zones.map((z) => z.id))));
    const fresh = (old: string): string => {
      let next = `${old.slice(0, 56)}-2`;
      for (let n = 3; taken.has(next); n++) next = `${old.slice(0, 56)}-${n}`;
      taken.add(next);
      return next;
    };
    const made: Layer = {
      ...layer,
      id: copy,
      name,
      groups: layer.groups.map((g) => ({ ...g, zones: g.zones.map((z) => ({ ...z, id: fresh(z.id) })) })),
    };
    const from = `layers/${id}/`;
    const ids = new Set(doc.routes.map((r) => r.id));
    const routes = doc.routes
      .filter((r) => r.target.startsWith(from))
      .map((r) => {
        let next = `${r.id.slice(0, 56)}-2`;
        for (let n = 3; ids.has(next); n++) next = `${r.id.slice(0, 56)}-${n}`;
        ids.add(next);
        return { ...r, id: next, target: `layers/${copy}/${r.target.slice(from.length)}` };
      });
    return {
      ...doc,
      layers: [...doc.layers.slice(0, at + 1), made, ...doc.layers.slice(at + 1)],
      routes: [...doc.routes, ...routes],
    };
  },
});

/** Changes a layer's name or the set to which it belongs. */
export const changeLayer = (id: string, change: Partial<Pick<Layer, "name" | "set">>): Edit => ({
  name: "name" in change ? `Rename layer to ${change.name}` : "Set layer set",
  merge: `layer:${id}:${Object.keys(change).join()}`,
  apply: (doc) => mapLayer(doc, id, (layer) => ({ ...layer, ...change })),
});

/** A zone that answers all keys without a sample, for a layer whose sound is computed. */
function keysWithoutSample(doc: Instrument, layerId: string): Zone {
  const taken = new Set(doc.layers.flatMap((l) => l.groups.flatMap((g) => g.zones.map((z) => z.id))));
  let id = `${layerId.slice(0, 50)}-keys`;
  for (let n = 2; taken.has(id); n++) id = `${layerId.slice(0, 50)}-keys-${n}`;
  return newZone({ id, sample: null, end: 0 });
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
    const kept = Object.entries(layer.source.params).filter(([id]) => Object.hasOwn(fresh.params, id));
    const source = { ...fresh, params: { ...fresh.params, ...Object.fromEntries(kept) } };
    const empty = layer.groups.every((g) => g.zones.length === 0);
    const groups = layer.groups.map((group, g): Group => {
      if (kind === "samples") return { ...group, zones: group.zones.filter((z) => z.sample !== null) };
      return empty && g === 0 ? { ...group, zones: [keysWithoutSample(doc, layerId)] } : group;
    });
    return withoutDead(mapLayer(doc, layerId, (l) => ({ ...l, source, groups })));
  },
});

export const addGroup = (layerId: string, group: Group): Edit => ({
  name: `Add group ${group.name}`,
  apply: (doc) => mapLayer(doc, layerId, (layer) => ({ ...layer, groups: [...layer.groups, group] })),
});

export const renameGroup = (layerId: string, groupId: string, name: string): Edit => ({
  name: `Rename group to ${name}`,
  merge: `group:${groupId}`,
  apply: (doc) =>
    mapLayer(doc, layerId, (layer) => ({
      ...layer,
      groups: layer.groups.map((g) => (g.id === groupId ? { ...g, name, settings: { ...g.settings, name } } : g)),
    })),
});

/** Removes an empty group, and whatever names it; one with zones, or a layer's last, stays. */
export const removeGroup = (layerId: string, groupId: string): Edit => ({
  name: "Remove group",
  apply: (doc) => {
    const layer = doc.layers.find((l) => l.id === layerId);
    const group = layer?.groups.find((g) => g.id === groupId);
    if (!layer || !group || group.zones.length > 0 || layer.groups.length < 2) return doc;
    return withoutDead(mapLayer(doc, layerId, (l) => ({ ...l, groups: l.groups.filter((g) => g !== group) })));
  },
});

/** Moves zones into a group of any layer. */
export const moveZones = (ids: ReadonlySet<string>, layerId: string, groupId: string): Edit => ({
  name: `Move ${plural(ids.size, "zone")}`,
  apply: (doc) => {
    const moved: Zone[] = doc.layers.flatMap((l) => l.groups.flatMap((g) => g.zones.filter((z) => ids.has(z.id))));
    return {
      ...doc,
      layers: doc.layers.map((layer) => ({
        ...layer,
        groups: layer.groups.map((group) => {
          const kept = group.zones.filter((z) => !ids.has(z.id));
          if (layer.id === layerId && group.id === groupId) return { ...group, zones: [...kept, ...moved] };
          return kept.length === group.zones.length ? group : { ...group, zones: kept };
        }),
      })),
    };
  },
});
