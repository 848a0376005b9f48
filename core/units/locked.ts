import { number } from "./number";
import type { TableRow } from "./unit";

/** The column of a table that says which rows stay as they are in whatever is done with all of them. */
export const LOCKED = number({
  id: "locked",
  label: "Locked",
  unit: "switch",
  min: 0,
  max: 1,
  default: 0,
  help: "Protects the row from edits of all rows and from dragging.",
});

export const isLocked = (row: TableRow): boolean => (row.locked ?? 0) >= 0.5;
