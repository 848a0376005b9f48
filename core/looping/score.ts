import { type LoopKind, type LoopParts, type LoopWish, strangePulse } from "./loop-candidate";

const share = (x: number): number => Math.max(0.01, Math.min(1, x));

/** How much a length is worth, 0 to 1: a loop of a few periods is without a seam and without life. */
function lengthWorth(seconds: number, prefer: LoopWish["prefer"]): number {
  if (prefer === "short") return 1.1 - 0.22 * Math.log2(1 + 6 * seconds);
  if (prefer === "long") return 0.1 + 0.22 * Math.log2(1 + 2 * seconds);
  return 0.25 + 0.24 * Math.log2(1 + 8 * seconds);
}

/** A score from 0 to 100: the geometric mean of what was measured, so that what is worst counts most. */
export function scoreOf(parts: LoopParts, kind: LoopKind, seconds: number, prefer: LoopWish["prefer"]): number {
  // Noise is never alike: there it counts that nothing happens at the seam.
  const alike = kind === "texture" && parts.change < 1.5 ? Math.max(parts.alike, 0.8) : parts.alike;
  // A beat moves in level, and it is as long as its bars are.
  const pulse = kind === "beat" ? 0 : strangePulse(parts);
  const bars = parts.bars ?? 0;
  const worth = kind === "beat" && prefer === undefined ? Math.min(1, 0.7 + 0.15 * bars) : lengthWorth(seconds, prefer);
  const off = kind === "beat" ? Math.abs(bars * 4 - Math.round(bars * 4)) : 0;
  // In a beat what moves is its strokes.
  const lost = kind === "beat" ? 0 : parts.lost;
  const logs =
    0.3 * Math.log(share(1 - Math.max(0, parts.click - 1) / 12)) +
    0.3 * Math.log(share(1 - Math.max(0, parts.swing - 1) / 12)) +
    0.3 * Math.log(share(1 - Math.max(0, lost - 1) / 10)) +
    0.34 * Math.log(share(1.6 - 0.5 * parts.change)) +
    0.2 * Math.log(share(alike)) +
    0.14 * Math.log(share(1 - Math.abs(parts.level) / 9)) +
    0.12 * Math.log(share(1 - parts.colour / 14)) +
    0.14 * Math.log(share(1 - pulse / 14)) +
    0.3 * Math.log(share(1 - 8 * off)) +
    (prefer === undefined ? 0.22 : 0.6) * Math.log(share(worth));
  return 100 * Math.exp(logs);
}
