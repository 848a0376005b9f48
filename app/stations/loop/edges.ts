import type { Zone } from "../../../core/instrument";

/** The zone with another start or end; its loops stay whole, so the edges stop at them. */
export function withEdges(zone: Zone, { start = zone.start, end = zone.end }: { start?: number; end?: number }): Zone {
  const loops = [zone.loop, zone.releaseLoop].flatMap((l) => l ?? []);
  return {
    ...zone,
    start: Math.min(start, ...loops.map((l) => l.start)),
    end: Math.max(end, ...loops.map((l) => l.end)),
  };
}
