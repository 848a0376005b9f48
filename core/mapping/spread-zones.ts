import type { Zone } from "../instrument";
import { type KeyStep, keysFrom } from "./lay-out";
import { type SpreadMode, type SpreadOptions, spreadRoots } from "./spread";

/** How zones take keys: as their roots are spread; each over all of them; or a key for each root, untransposed. */
export type ZoneSpread = SpreadMode | "whole" | "each";

export interface ZoneSpreadOptions extends Omit<SpreadOptions, "mode"> {
  readonly mode: ZoneSpread;
  /** Which keys are taken where each root gets one, from the lowest. */
  readonly step: KeyStep;
  /** How far the pitch follows the keys from now on; null leaves it. */
  readonly track: number | null;
  /** What sounds beside other zones whatever they are (its layer, group and microphone): such zones are spread by themselves. Not given: all are one. */
  readonly apart?: (zone: Zone) => string;
}

/** What becomes of a zone. */
export type SpreadZone = Pick<Zone, "keyLow" | "keyHigh" | "root" | "track">;

/** Whether one of two velocity ranges holds the other: then both are of one kind, sampled at the same strokes or at all. */
const nested = (a: Zone, b: Zone): boolean =>
  (a.velLow <= b.velLow && a.velHigh >= b.velHigh) || (b.velLow <= a.velLow && b.velHigh >= a.velHigh);

/** Zones that share their keys among them: those whose velocities are the same, or some of the others'. Velocity layers that were sampled at other roots are parted. */
function sharing(zones: readonly Zone[], apart: (zone: Zone) => string): readonly (readonly Zone[])[] {
  // Of thousands of zones there are a few velocity layers.
  const alike = new Map<string, { readonly of: string; readonly zones: Zone[] }>();
  for (const zone of zones) {
    const of = apart(zone);
    const key = `${zone.velLow}-${zone.velHigh} ${of}`;
    const known = alike.get(key);
    if (known) known.zones.push(zone);
    else alike.set(key, { of, zones: [zone] });
  }
  const shares: { readonly of: string; kinds: Zone[]; zones: Zone[] }[] = [];
  for (const { of, zones: members } of alike.values()) {
    const [kind] = members as [Zone, ...Zone[]];
    const touching = shares.filter((s) => s.of === of && s.kinds.some((other) => nested(other, kind)));
    for (const share of touching) shares.splice(shares.indexOf(share), 1);
    shares.push({
      of,
      kinds: [...touching.flatMap((s) => s.kinds), kind],
      zones: [...touching.flatMap((s) => s.zones), ...members],
    });
  }
  return shares.map((s) => s.zones);
}

/**
 * Spreads zones over keys, by id; those that get none stay as they are and aren't in it. As roots are spread: of zones that share velocity and repeat none
 * covers a key twice, and no key between two roots is left out, in no velocity layer. `whole`: every zone answers all keys between the limits. `each`: the roots in their order get a
 * key each, on which they sound as they were recorded.
 */
export function spreadZones(zones: readonly Zone[], options: ZoneSpreadOptions): Map<string, SpreadZone> {
  const { mode, low, high, step, track } = options;
  const of = (zone: Zone, range: { low: number; high: number }, root = zone.root): SpreadZone => ({
    keyLow: range.low,
    keyHigh: range.high,
    root,
    track: track ?? zone.track,
  });
  if (mode === "whole") return new Map(zones.map((z) => [z.id, of(z, { low, high })]));
  if (mode === "each") {
    const roots = [...new Set(zones.map((z) => z.root))].sort((a, b) => a - b);
    const keys = keysFrom(low, step, roots.length).filter((k) => k <= high);
    const keyOf = new Map(roots.flatMap((root, i) => (keys[i] === undefined ? [] : [[root, keys[i]] as const])));
    return new Map(
      zones.flatMap((z) => {
        const key = keyOf.get(z.root);
        return key === undefined ? [] : [[z.id, of(z, { low: key, high: key }, key)] as const];
      }),
    );
  }
  return new Map(
    sharing(zones, options.apart ?? (() => "")).flatMap((share) => {
      const ranges = spreadRoots(
        share.map((z) => z.root),
        { ...options, mode },
      );
      return share.flatMap((z) => {
        const range = ranges.get(z.root);
        return range ? [[z.id, of(z, range)] as const] : [];
      });
    }),
  );
}
