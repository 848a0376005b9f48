import type { Loop, Zone } from "../../../core/instrument";

/** The zone with another start or end; its loops stay whole, so the edges stop at them. */
export function withEdges(zone: Zone, { start = zone.start, end = zone.end }: { start?: number; end?: number }): Zone {
  const loops = [zone.loop, zone.releaseLoop].flatMap((l) => l ?? []);
  return {
    ...zone,
    start: Math.min(start, ...loops.map((l) => l.start)),
    end: Math.max(end, ...loops.map((l) => l.end)),
  };
}

/** A loop slid to another start with its length kept, inside what the zone plays; its crossfade is as long as there is room before it. */
export function slid({ start, end }: Pick<Zone, "start" | "end">, loop: Loop, to: number): Loop {
  const length = loop.end - loop.start;
  const at = Math.max(start, Math.min(end - length, to));
  return { ...loop, start: at, end: at + length };
}
