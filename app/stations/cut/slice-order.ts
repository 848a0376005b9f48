import { SURE } from "../../../core/analysis";
import { centsOfSlice, noteOfSlice } from "../../../core/formats";
import type { Slice } from "../../../core/instrument";

export const SURE_AT = SURE;

export type SortKey =
  | "keep"
  | "number"
  | "note"
  | "cents"
  | "confidence"
  | "strength"
  | "repeat"
  | "remark"
  | "length"
  | "peak"
  | "loudness";

export interface NumberedSlice {
  readonly slice: Slice;
  readonly number: number;
  readonly remark: string;
}

/** What is to be said of a slice in a word or two: why it is doubtful, how it differs; empty for most. */
export function remarkOf(slice: Slice, odd: string | undefined): string {
  if (slice.doubt && !slice.keep) return slice.doubt;
  if (odd) return odd;
  if (slice.note !== null || slice.cents !== null) return "set by hand";
  if (slice.pitch === null) return "no pitch";
  return slice.confidence < SURE ? "pitch unsure" : slice.doubt;
}

const keyOf = (key: SortKey, { slice, number, remark }: NumberedSlice): number | string => {
  switch (key) {
    case "number":
      return number;
    case "remark":
      return remark || "\uffff";
    case "keep":
      return slice.keep ? 0 : 1;
    case "note":
      return noteOfSlice(slice) ?? 999;
    case "cents":
      return centsOfSlice(slice) ?? 999;
    case "length":
      return slice.end - slice.start;
    case "strength":
    case "repeat":
      return slice[key] ?? 999;
    default:
      return slice[key];
  }
};

/** Which of two slices comes first by a column. */
export function compareBy(key: SortKey, a: NumberedSlice, b: NumberedSlice): number {
  const [x, y] = [keyOf(key, a), keyOf(key, b)];
  return x < y ? -1 : x > y ? 1 : 0;
}
