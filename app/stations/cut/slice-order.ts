import { SURE } from "../../../core/analysis";
import type { Slice } from "../../../core/instrument";

export const SURE_AT = SURE;

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
