import type { NumberParam } from "../params";
import { type TableRow, unitSpec } from "../units";
import type { Unit } from "./instrument";

/** A cell of a unit's table: the unit's address, the row counted from 0, and the column. */
export interface PlaceInTable {
  readonly unit: string;
  readonly row: number;
  readonly column: string;
}

const PATTERN = /^(.+)\/rows\/([1-9]\d{0,3})\/(\w+)$/;

/** The cell of a table that an address means, such as `layers/main/source/rows/3/level`; null where it means something else. */
export function placeInTable(address: string): PlaceInTable | null {
  const match = PATTERN.exec(address);
  return match ? { unit: match[1] as string, row: Number(match[2]) - 1, column: match[3] as string } : null;
}

/** The address of a cell of a table; rows are counted from 0. */
export const addressInTable = (unit: string, row: number, column: string): string =>
  `${unit}/rows/${row + 1}/${column}`;

/** The rows of a unit's table; those of its kind where it has none of its own. */
export const rowsOf = (unit: Unit): readonly TableRow[] => unit.table ?? unitSpec(unit.kind).table?.default ?? [];

/** What a cell of a unit's table is as a parameter; null where there is no such row or column. */
export function cellOfTable(
  unit: Unit,
  { row, column }: PlaceInTable,
): { readonly spec: NumberParam; readonly value: number } | null {
  const table = unitSpec(unit.kind).table;
  const spec = table?.columns.find((c) => c.id === column);
  const values = rowsOf(unit)[row];
  return table && spec && values ? { spec, value: values[column] ?? spec.default } : null;
}

/** The addresses of a document with a table's rows renumbered: `to` says where each row went, null where it is gone. */
export function renumbered(address: string, unit: string, to: (row: number) => number | null): string | null {
  const place = placeInTable(address);
  if (place?.unit !== unit) return address;
  const row = to(place.row);
  return row === null ? null : addressInTable(unit, row, place.column);
}
