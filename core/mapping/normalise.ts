import type { Slice } from "../instrument";

/** What a normalising aims at: peaks or loudness at a level, each slice by itself, each strength together, or all by one gain. */
export interface Normalising {
  readonly to: "peak" | "loudness";
  readonly level: number;
  readonly keep: "each" | "strength" | "all";
}

/** The gains that bring measured levels to where they should be: the loudest of each set lands on the level. */
export function normalisingGains(
  slices: readonly Pick<Slice, "id" | "strength">[],
  levels: readonly { peak: number; loudness: number }[],
  { to, level, keep }: Normalising,
): Map<string, number> {
  const setOf = (s: Pick<Slice, "id" | "strength">) =>
    keep === "each" ? s.id : keep === "strength" ? String(s.strength ?? 1) : "all";
  const loudest = new Map<string, number>();
  slices.forEach((s, i) => {
    const found = levels[i]?.[to] ?? -120;
    loudest.set(setOf(s), Math.max(loudest.get(setOf(s)) ?? -120, found));
  });
  const gains = new Map<string, number>();
  for (const s of slices) {
    const most = loudest.get(setOf(s)) ?? -120;
    // Silence stays silence.
    if (most > -119) gains.set(s.id, Math.min(60, Math.max(-60, Math.round((level - most) * 100) / 100)));
  }
  return gains;
}
