/** Which way a root covers the keys between it and its neighbours. */
export type SpreadMode = "nearest" | "down" | "up" | "none";

export interface SpreadOptions {
  readonly mode: SpreadMode;
  /** Lowest and highest key that may sound, both included. */
  readonly low: number;
  readonly high: number;
}

export interface KeyRange {
  readonly low: number;
  readonly high: number;
}

/**
 * Covers the keys `[low, high]` from a set of roots so that no key is covered twice and none between two roots is left
 * out. `down`: a root covers the keys below it, down to the next root; `up` the keys above it; `nearest` the keys closer to
 * it than to another (a tie goes to the lower root, which is raised, not lowered); `none`: only itself. The outermost
 * roots reach to the limits. Roots outside the limits get none.
 */
export function spreadRoots(roots: readonly number[], options: SpreadOptions): Map<number, KeyRange> {
  const { mode, low, high } = options;
  const inside = [...new Set(roots)].filter((r) => r >= low && r <= high).sort((a, b) => a - b);
  const ranges = new Map<number, KeyRange>();
  inside.forEach((root, i) => {
    const before = inside[i - 1];
    const after = inside[i + 1];
    if (mode === "none") {
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
    ranges.set(root, { low: from, high: to });
  });
  return ranges;
}
