import { type Instrument, isUnitList, type Unit, type UnitList } from "../../../core/instrument";
import type { Place as UnitPlace } from "../../../core/units";

/** A row of the station: a layer, a send or the whole, with what its sound goes through in order. */
export interface Lane {
  readonly id: string;
  readonly name: string;
  readonly kind: "layer" | "send" | "whole";
  readonly parts: readonly LanePart[];
}

/** A part of a row: one unit that always stands there, or a list in which units come and go. */
export type LanePart =
  | { readonly kind: "unit"; readonly address: string; readonly unit: Unit }
  | { readonly kind: "list"; readonly list: UnitList; readonly place: UnitPlace; readonly units: readonly Unit[] };

/** All rows of an instrument; of the sends those with something in them, and the first without. */
export function lanesOf({ layers, sends, effects }: Pick<Instrument, "layers" | "sends" | "effects">): Lane[] {
  const empty = sends.find((s) => s.units.length === 0);
  return [
    ...layers.map((layer): Lane => {
      const at = `layers/${layer.id}` as const;
      return {
        id: at,
        name: layer.name,
        kind: "layer",
        parts: [
          { kind: "unit", address: `${at}/source`, unit: layer.source },
          { kind: "list", list: `${at}/stages`, place: "stage", units: layer.stages },
          { kind: "unit", address: `${at}/amp`, unit: layer.amp },
          { kind: "unit", address: `${at}/strip`, unit: layer.strip },
          { kind: "list", list: `${at}/inserts`, place: "insert", units: layer.inserts },
        ],
      };
    }),
    ...sends
      .filter((send) => send.units.length > 0 || send === empty)
      .map(
        (send): Lane => ({
          id: `sends/${send.id}`,
          name: send.name,
          kind: "send",
          parts: [{ kind: "list", list: `sends/${send.id}`, place: "send", units: send.units }],
        }),
      ),
    {
      id: "effects",
      name: "The whole",
      kind: "whole",
      parts: [{ kind: "list", list: "effects", place: "main", units: effects }],
    },
  ];
}

/** A list and the id of a unit in it. */
export interface Place {
  readonly list: UnitList;
  readonly id: string;
}

/** Where in a chain a list is. */
export const placeOfList = (list: UnitList): UnitPlace => {
  if (list.endsWith("/stages")) return "stage";
  if (list.endsWith("/inserts")) return "insert";
  return list.startsWith("sends/") ? "send" : "main";
};

/** The list in which the unit at an address stands and its id there; null for one that always stands where it does. */
export function listOfAddress(address: string): Place | null {
  const cut = address.lastIndexOf("/");
  const [list, id] = [address.slice(0, cut), address.slice(cut + 1)];
  return isUnitList(list) && (list === "effects" || list.includes("/")) ? { list, id } : null;
}
