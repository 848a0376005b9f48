import type { Instrument, Zone } from "../../instrument";

interface Axis {
  readonly low: "velLow" | "keyLow";
  readonly high: "velHigh" | "keyHigh";
  readonly fadeLow: "velFadeLow" | "keyFadeLow";
  readonly fadeHigh: "velFadeHigh" | "keyFadeHigh";
}
const AXES: Readonly<Record<"velocities" | "keys", Axis>> = {
  velocities: { low: "velLow", high: "velHigh", fadeLow: "velFadeLow", fadeHigh: "velFadeHigh" },
  keys: { low: "keyLow", high: "keyHigh", fadeLow: "keyFadeLow", fadeHigh: "keyFadeHigh" },
};

/** What a zone's neighbours along an axis must share with it: its place across, its repeat and microphone. */
const laneOf = (zone: Zone, along: "velocities" | "keys"): string =>
  along === "velocities"
    ? `${zone.keyLow} ${zone.keyHigh} ${zone.repeat} ${zone.mic}`
    : `${zone.velLow} ${zone.velHigh} ${zone.repeat} ${zone.mic}`;

/** Zones in a lane that lie one behind the other, each with where its boundary to the next is, fades taken out. */
interface Neighbours {
  readonly below: Zone;
  readonly above: Zone;
  /** The last value of the lower one. */
  readonly at: number;
}

function neighboursOf(lane: readonly Zone[], { low, high }: Axis): Neighbours[] {
  const sorted = [...lane].sort((a, b) => a[low] - b[low] || a[high] - b[high]);
  return sorted.slice(1).flatMap((above, i) => {
    const below = sorted[i];
    if (!below || below[low] === above[low]) return [];
    const overlap = below[high] - above[low] + 1;
    // Those that lie apart have no boundary in common; those that overlap have it in the middle.
    if (overlap < 0 || above[high] <= below[high]) return [];
    const at = overlap > 0 ? Math.floor((above[low] + below[high]) / 2) : below[high];
    return at >= below[low] && at < above[high] ? [{ below, above, at }] : [];
  });
}

/**
 * Lets neighbouring zones fade into one another by equal power over so many velocities or keys; 0 parts them again at the middle of their overlap. Only
 * zones of one group and lane are neighbours. A fade is never wider than the narrower of the two. Gives the zones that change, by id.
 */
export function crossfadeZones(
  instrument: Instrument,
  ids: ReadonlySet<string>,
  along: "velocities" | "keys",
  width: number,
): Map<string, Zone> {
  const axis = AXES[along];
  const { low, high, fadeLow, fadeHigh } = axis;
  const changed = new Map<string, Zone>();
  for (const layer of instrument.layers) {
    for (const { zones } of layer.groups) {
      const lanes = new Map<string, Zone[]>();
      for (const zone of zones) {
        if (!ids.has(zone.id)) continue;
        const lane = laneOf(zone, along);
        lanes.set(lane, [...(lanes.get(lane) ?? []), zone]);
      }
      for (const lane of lanes.values()) {
        const pairs = neighboursOf(lane, axis);
        const bounds = new Map(lane.map((z) => [z.id, { from: z[low], to: z[high] }]));
        for (const { below, above, at } of pairs) {
          bounds.set(below.id, { from: bounds.get(below.id)?.from ?? below[low], to: at });
          bounds.set(above.id, { from: at + 1, to: bounds.get(above.id)?.to ?? above[high] });
        }
        const sizeOf = (zone: Zone): number => {
          const { from = 0, to = 0 } = bounds.get(zone.id) ?? {};
          return to - from + 1;
        };
        for (const { below, above, at } of pairs) {
          const most = Math.max(0, Math.min(Math.round(width), sizeOf(below), sizeOf(above)));
          const from = at + 1 - Math.ceil(most / 2);
          const to = at + Math.floor(most / 2);
          const fade = Math.max(0, to - from);
          changed.set(below.id, { ...(changed.get(below.id) ?? below), [high]: most > 0 ? to : at, [fadeHigh]: fade });
          changed.set(above.id, {
            ...(changed.get(above.id) ?? above),
            [low]: most > 0 ? from : at + 1,
            [fadeLow]: fade,
          });
        }
      }
    }
  }
  return changed;
}
