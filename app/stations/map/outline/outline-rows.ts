import { type Edit, type Instrument, type Mark, moveGroup, moveLayer, moveZones } from "../../../../core/instrument";

/** A line of the outline: a layer, or one of its groups below it. */
export interface OutlineRow {
  readonly kind: "layer" | "group";
  /** `layers/<layer>` or `layers/<layer>/groups/<group>`. */
  readonly address: string;
  readonly layer: string;
  /** Id of the group; of a layer its own. */
  readonly id: string;
  readonly name: string;
  readonly mark: Mark;
  readonly zones: number;
  /** Place among the layers, or among the groups of its layer. */
  readonly place: number;
}

/** What is dragged where the selected zones are: as an address among those of the rows. */
export const CHOSEN_ZONES = "zones";

export const layerAddress = (layer: string): string => `layers/${layer}`;
export const groupAddress = (layer: string, group: string): string => `layers/${layer}/groups/${group}`;

/** Layers, each with its groups below it. */
export function outlineRows(layers: Instrument["layers"]): OutlineRow[] {
  return layers.flatMap((layer, l) => {
    const groups = layer.groups.map(
      (group, g): OutlineRow => ({
        kind: "group",
        address: groupAddress(layer.id, group.id),
        layer: layer.id,
        id: group.id,
        name: group.name,
        mark: group.mark,
        zones: group.zones.length,
        place: g,
      }),
    );
    const zones = groups.reduce((n, g) => n + g.zones, 0);
    const own: OutlineRow = {
      kind: "layer",
      address: layerAddress(layer.id),
      layer: layer.id,
      id: layer.id,
      name: layer.name,
      mark: layer.mark,
      zones,
      place: l,
    };
    return [own, ...groups];
  });
}

/**
 * What dropping a row on another does; `chosen` are the selected zones, which may be dropped too. A layer takes the other's place; a group goes to where the
 * other stands, on a layer's row to the top of it; zones go into the group, on a layer's row into its first one. null: nothing.
 */
export function dropOn(
  rows: readonly OutlineRow[],
  from: string,
  over: string,
  chosen: ReadonlySet<string>,
): Edit | null {
  const [fromAt, overAt] = [from, over].map((a) => rows.findIndex((r) => r.address === a)) as [number, number];
  const target = rows[overAt];
  if (!target || from === over) return null;
  if (from === CHOSEN_ZONES) {
    const group = target.kind === "group" ? target : rows[overAt + 1];
    return group && chosen.size > 0 ? moveZones(chosen, group.layer, group.id) : null;
  }
  const moved = rows[fromAt];
  if (!moved) return null;
  if (moved.kind === "layer") {
    const layer = rows.find((r) => r.address === layerAddress(target.layer));
    return layer && layer !== moved ? moveLayer(moved.id, layer.place) : null;
  }
  if (target.kind === "layer") return moveGroup(moved.layer, moved.id, target.layer, 0);
  // Whoever comes from above pushes up those that it passes: it lands behind them.
  const behind = target.layer !== moved.layer && fromAt < overAt ? 1 : 0;
  return moveGroup(moved.layer, moved.id, target.layer, target.place + behind);
}
