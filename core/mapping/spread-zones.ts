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
}

/** What becomes of a zone. */
export type SpreadZone = Pick<Zone, "keyLow" | "keyHigh" | "root" | "track">;

/**
 * Spreads zones over keys, by id; those that get none stay as they are and aren't in it. As roots are spread: of zones that share velocity and repeat none
 * covers a key twice, and no key between two roots is left out. `whole`: every zone answers all keys between the limits. `each`: the roots in their order get a
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
  const ranges = spreadRoots(
    zones.map((z) => z.root),
    { ...options, mode },
  );
  return new Map(
    zones.flatMap((z) => {
      const range = ranges.get(z.root);
      return range ? [[z.id, of(z, range)] as const] : [];
    }),
  );
}
