import type { Zone } from "../../core/instrument";

interface Parted {
  readonly chosen: readonly Zone[];
  readonly rest: readonly Zone[];
}

let last: { readonly zones: readonly Zone[]; readonly ids: ReadonlySet<string>; readonly parted: Parted } | null = null;

const same = <T>(a: readonly T[], b: readonly T[]): boolean => {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
};

/** The zones that are selected, and the others; each the very same list as before where it holds the same. Several ask for it after every edit. */
export function partZones(zones: readonly Zone[], ids: ReadonlySet<string>): Parted {
  if (last?.zones === zones && last.ids === ids) return last.parted;
  const chosen: Zone[] = [];
  const rest: Zone[] = [];
  for (let i = 0; i < zones.length; i++) {
    const zone = zones[i] as Zone;
    (ids.has(zone.id) ? chosen : rest).push(zone);
  }
  const before = last?.parted;
  const parted = {
    chosen: before && same(chosen, before.chosen) ? before.chosen : chosen,
    rest: before && same(rest, before.rest) ? before.rest : rest,
  };
  last = { zones, ids, parted };
  return parted;
}
