import { isUnitList, type UnitList } from "../../core/instrument";
import type { Place as UnitPlace } from "../../core/units";

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
