/** A whole number with its thousands apart: `12,345`. Written out here, for the browser's own formatter takes 40 ms to load. */
export const grouped = (n: number): string => String(n).replace(/\B(?=(\d{3})+$)/g, ",");

/** A number with its noun: `1 zone`, `3 zones`. */
export const plural = (n: number, one: string, many = `${one}s`): string => `${grouped(n)} ${n === 1 ? one : many}`;
