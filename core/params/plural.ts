/** A whole number with its thousands apart: `12,345`. Written out here, for the browser's own formatter takes 40 ms to load. */
export const grouped = (n: number): string => String(n).replace(/\B(?=(\d{3})+$)/g, ",");

/** A number with its noun: `1 zone`, `3 zones`. */
export const plural = (n: number, one: string, many = `${one}s`): string => `${grouped(n)} ${n === 1 ? one : many}`;

/** Names that are told one by one; of more only their number. */
const TOLD = 3;

/** The first of many names or reasons, and how many there are beside them: `a, b, c and 4 more`. */
export const few = (names: readonly string[], between = ", "): string =>
  names.length > TOLD
    ? `${names.slice(0, TOLD).join(between)} and ${grouped(names.length - TOLD)} more`
    : names.join(between);
