import type { ParamsOf, UnitKind } from "../list";
import type { TableRow } from "../unit";

/** A kind of unit set up for something: what isn't given is as it is at first. */
export interface Preset<K extends UnitKind = UnitKind> {
  readonly name: string;
  readonly params: Partial<ParamsOf<K>>;
  readonly table?: readonly TableRow[];
}

/** So many rows, each made of its number counted from 1. */
export const rowsBy = (count: number, row: (n: number) => TableRow): readonly TableRow[] =>
  Array.from({ length: count }, (_, i) => row(i + 1));
/** Decibels of a factor. */
export const db = (factor: number): number => Math.max(-96, 20 * Math.log10(factor));
