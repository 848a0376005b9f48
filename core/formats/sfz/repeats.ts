import type { SfzRegion } from "./program";
import { numberIn } from "./region-reader";

/** Which of the repeats a region is, and how often it sounds at all. */
export interface Turn {
  readonly mode: "cycle" | "random";
  readonly repeat: number;
  readonly chance: number;
}

/** How far the ends of parts of chance may be from even ones: some write 0.33, some 0.333. */
const NEAR = 0.012;

const amountOf = (region: SfzRegion, name: string, otherwise: number): number =>
  numberIn(region.opcodes.get(name)?.value ?? "") ?? otherwise;

/**
 * Reads `seq_position`, and `lorand` with `hirand`: where the parts of chance of a file make up a whole in even parts, each is one of so many repeats by
 * chance; one that stands alone sounds as often as its part is wide.
 */
export function repeatsOf(regions: readonly SfzRegion[]): (region: SfzRegion) => Turn {
  const parts = new Set<string>();
  /** Its number among how many even parts; null where it is none. */
  const evenPart = (region: SfzRegion): { n: number; k: number } | null => {
    const low = amountOf(region, "lorand", 0);
    const high = amountOf(region, "hirand", 1);
    const n = Math.round(1 / Math.max(1e-3, high - low));
    const k = Math.round(low * n);
    return n > 1 && Math.abs(low - k / n) < NEAR && Math.abs(high - (k + 1) / n) < NEAR ? { n, k } : null;
  };
  for (const region of regions) {
    const part = evenPart(region);
    if (part) parts.add(`${part.n}:${part.k}`);
  }
  const complete = (n: number): boolean => {
    for (let k = 0; k < n; k++) if (!parts.has(`${n}:${k}`)) return false;
    return true;
  };
  return (region) => {
    const position = Math.max(1, Math.min(1000, Math.round(amountOf(region, "seq_position", 1))));
    if (!region.opcodes.has("lorand") && !region.opcodes.has("hirand"))
      return { mode: "cycle", repeat: position, chance: 1 };
    const part = evenPart(region);
    if (part && complete(part.n)) return { mode: "random", repeat: part.k + 1, chance: 1 };
    const wide = amountOf(region, "hirand", 1) - amountOf(region, "lorand", 0);
    return { mode: "cycle", repeat: position, chance: Math.max(0, Math.min(1, wide)) };
  };
}
