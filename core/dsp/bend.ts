/** Fall by 60 dB, in time constants. */
const FALL = Math.log(1000);

/**
 * The course of a bent line: how much of the way is done (0–1) at a place (0–1). A bend of 0 is straight; 1 falls as things die
 * away, by 60 dB of the way evenly in decibels; −1 is its mirror image.
 */
export function bent(place: number, bend: number): number {
  if (bend === 0 || place <= 0 || place >= 1) return place <= 0 ? 0 : place >= 1 ? 1 : place;
  const c = FALL * bend;
  return Math.expm1(-c * place) / Math.expm1(-c);
}

/** The place at which a bent line has done so much of its way: the inverse of `bent`. */
export function unbent(way: number, bend: number): number {
  if (bend === 0 || way <= 0 || way >= 1) return way <= 0 ? 0 : way >= 1 ? 1 : way;
  const c = FALL * bend;
  return -Math.log1p(way * Math.expm1(-c)) / c;
}

/** Points of a line by rising x, with bends as `bent` takes them. */
export interface BentLine {
  readonly x: ArrayLike<number>;
  readonly y: ArrayLike<number>;
  readonly bend: ArrayLike<number>;
}

/** The line's y at x; level before its first and after its last point. */
export function lineAt(line: BentLine, x: number): number {
  const last = line.x.length - 1;
  if (last < 0) return 0;
  if (x <= (line.x[0] as number)) return line.y[0] as number;
  if (x >= (line.x[last] as number)) return line.y[last] as number;
  let low = 0;
  let high = last;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((line.x[middle] as number) <= x) low = middle;
    else high = middle;
  }
  const from = line.x[low] as number;
  const width = (line.x[high] as number) - from;
  const part = bent(width > 0 ? (x - from) / width : 1, line.bend[low] as number);
  return (line.y[low] as number) + part * ((line.y[high] as number) - (line.y[low] as number));
}
