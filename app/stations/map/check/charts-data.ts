import { byIdentity, type Instrument, type Sample, type Zone } from "../../../../core/instrument";

/** How far a zone is off its root, and how loud it is, by its root. */
export interface ChartPoint {
  readonly root: number;
  readonly cents: number | null;
  readonly level: number;
  /** Its velocities in the middle. */
  readonly velocity: number;
}

/** Points that are drawn at the most: more lie upon one another. */
const MOST = 2000;

/** What the charts show of a map. */
export const chartPoints = byIdentity((layers: Instrument["layers"]) => (samples: readonly Sample[]): ChartPoint[] => {
  const known = new Map(samples.map((s) => [s.sha, s]));
  const zones: Zone[] = layers.flatMap((l) => l.groups.flatMap((g) => g.zones));
  const every = Math.max(1, Math.ceil(zones.length / MOST));
  return zones.flatMap((zone, i) => {
    const sample = i % every === 0 ? known.get(zone.sample ?? "") : undefined;
    if (!sample) return [];
    const sure = sample.pitch !== null && sample.confidence >= 0.6 && zone.track >= 0.5;
    const cents = sure ? ((sample.pitch ?? 0) - zone.root) * 100 + zone.tune : null;
    return [
      {
        root: zone.root,
        cents: cents === null ? null : Math.max(-100, Math.min(100, cents)),
        level: sample.loudness + zone.gain,
        velocity: Math.round((zone.velLow + zone.velHigh) / 2),
      },
    ];
  });
});
