import { type Instrument, listZones, type Zone } from "../instrument";

/** A key struck at a velocity. */
export interface Stroke {
  readonly key: number;
  readonly velocity: number;
}

/** Most strokes of a run: of more the keys are thinned out evenly, never the strengths. */
const MOST = 2000;

/** The velocities of a key that sound different: the middle of each stretch in which the same zones answer. */
function strengthsAt(zones: readonly Zone[]): number[] {
  const edges = [...new Set(zones.flatMap((z) => [z.velLow, z.velHigh + 1]))].sort((a, b) => a - b);
  return edges.slice(0, -1).flatMap((from, i) => {
    const to = (edges[i + 1] ?? 128) - 1;
    const middle = Math.round((from + to) / 2);
    return zones.some((z) => middle >= z.velLow && middle <= z.velHigh) ? [middle] : [];
  });
}

/** Every key that sounds at every strength that it has, from the lowest up, softest first. */
export function everyStrength(instrument: Instrument): Stroke[] {
  const byKey: Zone[][] = Array.from({ length: 128 }, () => []);
  for (const zone of listZones(instrument))
    for (let key = zone.keyLow; key <= zone.keyHigh; key++) byKey[key]?.push(zone);
  const keys = byKey.flatMap((zones, key) => (zones.length > 0 ? [{ key, velocities: strengthsAt(zones) }] : []));
  const total = keys.reduce((sum, k) => sum + k.velocities.length, 0);
  const step = Math.ceil(total / MOST);
  return keys
    .filter((_, i) => i % step === 0)
    .flatMap(({ key, velocities }) => velocities.map((velocity) => ({ key, velocity })));
}

/** Both ends of the range of some zones, at their softest and their hardest. */
export function bothEnds(zones: readonly Zone[]): Stroke[] {
  if (zones.length === 0) return [];
  const of = (pick: (...all: number[]) => number, field: (z: Zone) => number) => pick(...zones.map(field));
  const [low, high] = [of(Math.min, (z) => z.keyLow), of(Math.max, (z) => z.keyHigh)];
  const [soft, hard] = [of(Math.min, (z) => z.velLow), of(Math.max, (z) => z.velHigh)];
  const strokes = [low, high].flatMap((key) => [soft, hard].map((velocity) => ({ key, velocity })));
  return strokes.filter((s, i) => strokes.findIndex((o) => o.key === s.key && o.velocity === s.velocity) === i);
}
