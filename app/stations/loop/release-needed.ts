import type { Zone } from "../../../core/instrument";

/** Longest release that is asked for, in seconds. */
const MOST = 10;

/** Seconds after the key was let go by which a zone's release loop was heard once, from the end of the sustain loop on; null where there is none. */
export function releaseNeeded({ start, loop, releaseLoop }: Zone, rate: number): number | null {
  if (!releaseLoop) return null;
  const from = loop && loop.end <= releaseLoop.end ? loop.end : start;
  return Math.min(MOST, Math.max(0.01, Math.ceil(((releaseLoop.end - from) / rate) * 100) / 100));
}
