import { SURE } from "../../../../core/analysis";
import type { Instrument, Sample, Zone } from "../../../../core/instrument";

/** How far what stands on a root at a strength is off it at the worst, and how loud it is in the mean. */
export interface ChartPoint {
  readonly root: number;
  readonly cents: number | null;
  readonly level: number;
  /** Its velocities in the middle. */
  readonly velocity: number;
}

const centsOf = (zone: Zone, sample: Sample): number | null =>
  sample.pitch === null || sample.confidence < SURE || zone.track < 0.5
    ? null
    : Math.max(-100, Math.min(100, (sample.pitch - zone.root) * 100 + zone.tune));

/** What the charts show of a map: a mark for each root and strength, so that repeats don't lie upon one another. */
export function chartPoints(layers: Instrument["layers"], samples: readonly Sample[]): ChartPoint[] {
  const known = new Map(samples.map((s) => [s.sha, s]));
  const cells = new Map<number, { zone: Zone; cents: number | null; sum: number; count: number }>();
  for (const layer of layers)
    for (const group of layer.groups)
      for (const zone of group.zones) {
        const sample = known.get(zone.sample ?? "");
        if (!sample) continue;
        const key = (zone.root * 128 + zone.velLow) * 128 + zone.velHigh;
        const cell = cells.get(key) ?? { zone, cents: null, sum: 0, count: 0 };
        const cents = centsOf(zone, sample);
        if (cents !== null && Math.abs(cents) >= Math.abs(cell.cents ?? 0)) cell.cents = cents;
        cell.sum += sample.loudness + zone.gain;
        cell.count++;
        cells.set(key, cell);
      }
  return [...cells.values()].map(({ zone, cents, sum, count }) => ({
    root: zone.root,
    cents,
    level: sum / count,
    velocity: Math.round((zone.velLow + zone.velHigh) / 2),
  }));
}
