import { plural } from "../params";
import { withoutDead } from "./dead-references";
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

/** Changes a layer's name or the set to which it belongs. */
export const changeLayer = (id: string, change: Partial<Pick<Layer, "name" | "set">>): Edit => ({
  name: "name" in change ? `Rename layer to ${change.name}` : "Set layer set",
  merge: `layer:${id}:${Object.keys(change).join()}`,
  apply: (doc) => mapLayer(doc, id, (layer) => ({ ...layer, ...change })),
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
