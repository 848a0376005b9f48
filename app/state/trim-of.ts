/** Mean loudness of one of two sides, so far: its power by K-weighting, and of how many looks. */
export interface Side {
  readonly power: number;
  readonly looks: number;
}

/** Looks of a side until its loudness is known. */
export const KNOWN = 5;
const MOST = 24;

/** By how many decibels the sound without something is to be louder, to be as loud as with it; null until both have been heard for a while. */
export function trimOf(sides: { readonly with: Side; readonly without: Side }): number | null {
  if (sides.with.looks < KNOWN || sides.without.looks < KNOWN) return null;
  return Math.max(-MOST, Math.min(MOST, 10 * Math.log10(sides.with.power / sides.without.power)));
}
