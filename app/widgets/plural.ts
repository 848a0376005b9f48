/** A number with its noun: `1 zone`, `3 zones`. */
export const plural = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString("en")} ${n === 1 ? one : many}`;
