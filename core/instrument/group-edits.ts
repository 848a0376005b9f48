import { plural } from "../params";
import { copiedRoutes, freshIds, readdressed, zoneIdsOf } from "./copies";
import { withoutDead } from "./dead-references";
import { newGroup } from "./defaults";
import type { Edit } from "./edit";
import type { Group, Instrument, Layer, Zone } from "./instrument";
import { mapLayer } from "./layer-edits";

export const addGroup = (layerId: string, group: Group): Edit => ({
  name: `Add group ${group.name}`,
  apply: (doc) => mapLayer(doc, layerId, (layer) => ({ ...layer, groups: [...layer.groups, group] })),
});

const mapGroup = (doc: Instrument, layerId: string, groupId: string, change: (group: Group) => Group): Instrument =>
  mapLayer(doc, layerId, (layer) => ({
    ...layer,
    groups: layer.groups.map((g) => (g.id === groupId ? change(g) : g)),
  }));

export const renameGroup = (layerId: string, groupId: string, name: string): Edit => ({
  name: `Rename group to ${name}`,
  merge: `group:${groupId}`,
  apply: (doc) => mapGroup(doc, layerId, groupId, (g) => ({ ...g, name, settings: { ...g.settings, name } })),
});

const WHAT = { mark: "Mark group", note: "Note of group" } as const;

/** Changes a group's mark or its note. */
export const changeGroup = (
  layerId: string,
  groupId: string,
  change: Partial<Pick<Group, keyof typeof WHAT>>,
): Edit => ({
  name: WHAT[Object.keys(change)[0] as keyof typeof WHAT],
  merge: `group:${groupId}:${Object.keys(change).join()}`,
  apply: (doc) => mapGroup(doc, layerId, groupId, (g) => ({ ...g, ...change })),
});

/** What a layer has in place of its last group. */
const MAIN = (): Group => newGroup("main", "Main");

/** Removes a group with its zones, and whatever names it; a layer's last leaves an empty one. */
export const removeGroup = (layerId: string, groupId: string): Edit => ({
  name: "Remove group",
  apply: (doc) => {
    const layer = doc.layers.find((l) => l.id === layerId);
    if (!layer?.groups.some((g) => g.id === groupId)) return doc;
    const rest = layer.groups.filter((g) => g.id !== groupId);
    return withoutDead(mapLayer(doc, layerId, (l) => ({ ...l, groups: rest.length > 0 ? rest : [MAIN()] })));
  },
});

/** Puts a copy of a group behind it, its zones under ids of their own; what moves the group's parameters moves the copy's as well. */
export const duplicateGroup = (layerId: string, groupId: string, name: string): Edit => ({
  name: `Duplicate group ${name}`,
  apply: (doc) => {
    const layer = doc.layers.find((l) => l.id === layerId);
    const at = layer?.groups.findIndex((g) => g.id === groupId) ?? -1;
    const group = layer?.groups[at];
    if (!layer || !group) return doc;
    const copy = freshIds(new Set(layer.groups.map((g) => g.id)))(groupId);
    const zoneId = freshIds(zoneIdsOf(doc));
    const made: Group = {
      ...group,
      id: copy,
      name,
      settings: { ...group.settings, name },
      zones: group.zones.map((z) => ({ ...z, id: zoneId(z.id) })),
    };
    const groups = [...layer.groups.slice(0, at + 1), made, ...layer.groups.slice(at + 1)];
    const [from, to] = [groupId, copy].map((id) => `layers/${layerId}/groups/${id}/`) as [string, string];
    return {
      ...mapLayer(doc, layerId, (l) => ({ ...l, groups })),
      routes: [...doc.routes, ...copiedRoutes(doc, from, to)],
    };
  },
});

/**
 * Moves a group to a place among the groups of a layer, its own or another one; routes and dials follow it. A layer that gives its last group away keeps an
 * empty one. Between layers it changes what its sound goes through, not what it is.
 */
export const moveGroup = (layerId: string, groupId: string, toLayer: string, to: number): Edit => ({
  name: "Move group",
  apply: (doc) => {
    const from = doc.layers.find((l) => l.id === layerId);
    const target = doc.layers.find((l) => l.id === toLayer);
    const group = from?.groups.find((g) => g.id === groupId);
    if (!from || !target || !group) return doc;
    const placed = (groups: readonly Group[], one: Group): Group[] => [
      ...groups.slice(0, to),
      one,
      ...groups.slice(to),
    ];
    if (from === target) {
      if (from.groups[to] === group) return doc;
      return mapLayer(doc, layerId, (l) => ({
        ...l,
        groups: placed(
          l.groups.filter((g) => g !== group),
          group,
        ),
      }));
    }
    const taken = new Set(target.groups.map((g) => g.id));
    const id = taken.has(groupId) ? freshIds(taken)(groupId) : groupId;
    const left = from.groups.filter((g) => g !== group);
    const change = (l: Layer): Layer => {
      if (l === from) return { ...l, groups: left.length > 0 ? left : [MAIN()] };
      return l === target ? { ...l, groups: placed(l.groups, { ...group, id }) } : l;
    };
    return readdressed(
      { ...doc, layers: doc.layers.map(change) },
      `layers/${layerId}/groups/${groupId}/`,
      `layers/${toLayer}/groups/${id}/`,
    );
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

/**
 * Parts zones into groups of their own in the layer where each stands, by what `nameOf` calls them, with the settings of the group that they leave: a kit is
 * one group for each sound. Groups that become empty go.
 */
export const partIntoGroups = (ids: ReadonlySet<string>, nameOf: (zone: Zone) => string): Edit => ({
  name: `Part ${plural(ids.size, "zone")} into groups`,
  apply: (doc) => ({
    ...doc,
    layers: doc.layers.map((layer) => {
      if (!layer.groups.some((g) => g.zones.some((z) => ids.has(z.id)))) return layer;
      const groupId = freshIds(new Set(layer.groups.map((g) => g.id)));
      const groups = layer.groups.flatMap((group): Group[] => {
        const parts = new Map<string, Zone[]>();
        for (const zone of group.zones) {
          if (!ids.has(zone.id)) continue;
          const name = nameOf(zone);
          const part = parts.get(name);
          if (part) part.push(zone);
          else parts.set(name, [zone]);
        }
        if (parts.size === 0) return [group];
        const rest = group.zones.filter((z) => !ids.has(z.id));
        const made = [...parts].map(([name, zones], i): Group => {
          // The first takes over the group where nothing is left of it, with whatever names it.
          const id = i === 0 && rest.length === 0 ? group.id : groupId(group.id);
          return { ...group, id, name, settings: { ...group.settings, name }, zones };
        });
        return rest.length > 0 ? [{ ...group, zones: rest }, ...made] : made;
      });
      return { ...layer, groups };
    }),
  }),
});
