import type { Zone } from "../instrument";
import type { GroupPlan, LayerPlan, Plan } from "./plan";

/** Zones that stand as they did in the group of the same id before, or new ones. */
type Run = { readonly from: number; readonly count: number } | { readonly zones: readonly Zone[] };

/**
 * A plan as it is sent to the audio thread: zones that it has already are not sent again, for reading thousands of them takes that thread longer than
 * it has. What differs is told by identity.
 */
export interface PlanDelta extends Omit<Plan, "layers" | "samples"> {
  readonly layers: readonly (Omit<LayerPlan, "groups"> & { readonly groups: readonly GroupDelta[] })[];
  /** Null: as before. */
  readonly samples: readonly string[] | null;
}
interface GroupDelta extends Omit<GroupPlan, "zones"> {
  readonly zones: readonly Run[];
}

const groupsOf = (plan: Plan | null): Map<string, readonly Zone[]> =>
  new Map(plan?.layers.flatMap((layer) => layer.groups.map((g) => [`${layer.id}/${g.id}`, g.zones] as const)));

const sameList = (a: readonly string[], b: readonly string[] | undefined): boolean =>
  a === b || (a.length === b?.length && a.every((value, i) => value === b[i]));

/** What of a plan the audio thread lacks that has `sent`. */
export function planDelta(plan: Plan, sent: Plan | null): PlanDelta {
  const before = groupsOf(sent);
  return {
    ...plan,
    samples: sameList(plan.samples, sent?.samples) ? null : plan.samples,
    layers: plan.layers.map((layer) => ({
      ...layer,
      groups: layer.groups.map((g) => ({ ...g, zones: runsOf(g.zones, before.get(`${layer.id}/${g.id}`) ?? []) })),
    })),
  };
}

function runsOf(zones: readonly Zone[], before: readonly Zone[]): readonly Run[] {
  const runs: ({ from: number; count: number } | { zones: Zone[] })[] = [];
  let places: Map<Zone, number> | null = null;
  /** Where the next zone stood if it stands beside this one as it did before. */
  let next = 0;
  for (const [i, zone] of zones.entries()) {
    let place: number | undefined = next;
    if (before[next] !== zone) {
      places ??= new Map(before.map((z, at) => [z, at]));
      place = places.get(zone);
    }
    const last = runs.at(-1);
    if (place === undefined) {
      if (last && "zones" in last) last.zones.push(zone);
      else runs.push({ zones: [zone] });
    } else if (last && "from" in last && last.from + last.count === place) last.count++;
    else runs.push({ from: place, count: 1 });
    // Most often one zone among many was changed where it stands.
    next = (place ?? i) + 1;
  }
  return runs;
}

/** The plan of a delta, for whoever has the one that it was made against. */
export function applyDelta(delta: PlanDelta, have: Plan | null): Plan {
  const before = groupsOf(have);
  return {
    ...delta,
    samples: delta.samples ?? have?.samples ?? [],
    layers: delta.layers.map((layer) => ({
      ...layer,
      groups: layer.groups.map((g) => ({ ...g, zones: zonesOf(g.zones, before.get(`${layer.id}/${g.id}`) ?? []) })),
    })),
  };
}

function zonesOf(runs: readonly Run[], before: readonly Zone[]): readonly Zone[] {
  const [only] = runs;
  if (runs.length === 1 && only && "from" in only && only.from === 0 && only.count === before.length) return before;
  const zones: Zone[] = [];
  for (const run of runs) {
    if ("zones" in run) for (const zone of run.zones) zones.push(zone);
    else for (let i = 0; i < run.count; i++) zones.push(before[run.from + i] as Zone);
  }
  return zones;
}
