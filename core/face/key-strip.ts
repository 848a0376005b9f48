/** A key of a strip: where it lies, in shares of the strip's width, and whether it is a black one. */
export interface StripKey {
  readonly key: number;
  readonly from: number;
  readonly to: number;
  readonly black: boolean;
}

/** How far down black keys reach, as a share of the strip's height; how wide they are beside the white ones. */
export const BLACK_DOWN = 0.62;
const BLACK_WIDE = 0.62;

const isBlack = (key: number): boolean => [1, 3, 6, 8, 10].includes(key % 12);

/** The keys from one to another, as a keyboard has them: white ones side by side, black ones over where they meet. A black one at either end is left out. */
export function stripKeys(low: number, high: number): readonly StripKey[] {
  const from = isBlack(low) ? low + 1 : low;
  const to = isBlack(high) ? high - 1 : high;
  const keys = Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => from + i);
  const whites = keys.filter((key) => !isBlack(key)).length;
  let before = 0;
  return keys.map((key) => {
    const black = isBlack(key);
    const left = black ? before - BLACK_WIDE / 2 : before;
    if (!black) before++;
    return { key, from: left / whites, to: (left + (black ? BLACK_WIDE : 1)) / whites, black };
  });
}

/** The key under a place of the strip (shares of its width and height), and how hard it is struck there: lower is harder, 0 to 1; null beside the keys. */
export function keyUnder(
  keys: readonly StripKey[],
  x: number,
  y: number,
): { readonly key: number; readonly strength: number } | null {
  const down = Math.min(1, Math.max(0, y));
  const at = (key: StripKey) => x >= key.from && x < key.to;
  const black = down < BLACK_DOWN ? keys.find((key) => key.black && at(key)) : undefined;
  const found = black ?? keys.find((key) => !key.black && at(key));
  return found ? { key: found.key, strength: black ? down / BLACK_DOWN : down } : null;
}
