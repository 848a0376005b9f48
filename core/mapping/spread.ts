/** Which way a root covers the keys between it and its neighbours. */
export type SpreadMode = "nearest" | "down" | "up" | "none";

export interface SpreadOptions {
  readonly mode: SpreadMode;
  /** Lowest and highest key that may sound, both included. */
  readonly low: number;
  readonly high: number;
  /** Semitones by which a root is transposed at the most; keys beyond stay silent. Not given: as far as it takes. */
  readonly most?: number;
  /** Whether the outermost roots reach to the limits; else only as far as they would reach to a neighbour as far away as their next. Not given: they do. */
  readonly outer?: boolean;
}

export interface KeyRange {
  readonly low: number;
  readonly high: number;
}

/**
 * Covers the keys `[low, high]` from a set of roots so that no key is covered twice and none between two roots is left
 * out. `down`: a root covers the keys below it, down to the next root; `up` the keys above it; `nearest` the keys closer to
 * it than to another (a tie goes to the lower root, which is raised, not lowered); `none`: only itself. The outermost
 * roots reach to the limits, unless `outer` or `most` keep them. Roots outside the limits get none.
 */
export function spreadRoots(roots: readonly number[], options: SpreadOptions): Map<number, KeyRange> {
  const { mode, low, high, most = 127, outer = true } = options;
  const inside = [...new Set(roots)].filter((r) => r >= low && r <= high).sort((a, b) => a - b);
  const ranges = new Map<number, KeyRange>();
  inside.forEach((root, i) => {
    const [left, right] = [inside[i - 1], inside[i + 1]];
    const before = left ?? (outer || right === undefined ? undefined : 2 * root - right);
    const after = right ?? (outer || left === undefined ? undefined : 2 * root - left);
    if (mode === "none" || (!outer && inside.length === 1)) {
      ranges.set(root, { low: root, high: root });
      return;
    }
    const from =
      before === undefined
        ? low
        : mode === "down"
          ? before + 1
          : mode === "up"
            ? root
            : Math.floor((before + root) / 2) + 1;
    const to =
      after === undefined ? high : mode === "down" ? root : mode === "up" ? after - 1 : Math.floor((root + after) / 2);
    ranges.set(root, { low: Math.max(low, from, root - most), high: Math.min(high, to, root + most) });
  });
  return ranges;
}
