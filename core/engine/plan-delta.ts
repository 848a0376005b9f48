import type { Zone } from "../instrument";
import type { GroupPlan, LayerPlan, Plan } from "./plan";

/** Zones that stand as they did in the group of the same id before, or new ones. */
type Run = { readonly from: number; readonly count: number } | { readonly zones: readonly Zone[] };

interface GroupDelta extends Omit<GroupPlan, "zones"> {
  readonly zones: readonly Run[];
}
interface LayerDelta {
  /** What is as it was before, by the layer's id; null where it is another. */
  readonly layer: string | Omit<LayerPlan, "groups">;
  readonly groups: readonly GroupDelta[];
}

/**
 * A plan as it is sent to the audio thread: what that has already is not sent again, for reading thousands of zones takes it longer than it has.
 * What differs is told by identity.
 */
export interface PlanDelta {
  /** Parts that are other than before. */
  readonly parts: Partial<Omit<Plan, "layers">>;
  readonly layers: readonly LayerDelta[];
}

const groupsOf = (plan: Plan | null): Map<string, readonly Zone[]> =>
  new Map(plan?.layers.flatMap((layer) => layer.groups.map((g) => [`${layer.id}/${g.id}`, g.zones] as const)));

const sameList = (a: readonly unknown[], b: unknown): boolean =>
  Array.isArray(b) && a.length === b.length && a.every((value, i) => value === b[i]);

const samePart = (a: unknown, b: unknown): boolean => a === b || (Array.isArray(a) && sameList(a, b));

/** What of a plan the audio thread lacks that has `sent`. */
export function planDelta(plan: Plan, sent: Plan | null): PlanDelta {
  const zones = groupsOf(sent);
  const layers = new Map(sent?.layers.map((layer) => [layer.id, layer]));
  const { layers: _, ...parts } = plan;
  return {
    parts: Object.fromEntries(
      Object.entries(parts).filter(([key, part]) => !sent || !samePart(part, sent[key as keyof Plan])),
    ),
    layers: plan.layers.map(({ groups, ...layer }) => {
      const before = layers.get(layer.id);
      const same = before && (Object.keys(layer) as (keyof typeof layer)[]).every((key) => layer[key] === before[key]);
      return {
        layer: same ? layer.id : layer,
        groups: groups.map((g) => ({ ...g, zones: runsOf(g.zones, zones.get(`${layer.id}/${g.id}`) ?? []) })),
      };
    }),
  };
}

function runsOf(zones: readonly Zone[], before: readonly Zone[]): readonly Run[] {
  const runs: ({ from: number; count: number } | { zones: Zone[] })[] = [];
  let places: Map<Zone, number> | null = null;
  for (let i = 0, next = 0; i < zones.length; ) {
    // As long as they stand beside one another as they did before.
    const most = Math.min(zones.length - i, before.length - next);
    let count = 0;
    while (count < most && zones[i + count] === before[next + count]) count++;
    if (count > 0) {
      runs.push({ from: next, count });
      i += count;
      next += count;
      continue;
    }
    const zone = zones[i] as Zone;
    places ??= new Map(before.map((z, at) => [z, at]));
    const place = places.get(zone);
    if (place !== undefined) {
      next = place;
      continue;
    }
    const last = runs.at(-1);
    if (last && "zones" in last) last.zones.push(zone);
    else runs.push({ zones: [zone] });
    // Most often one zone among many was changed where it stands.
    i++;
    next++;
  }
  return runs;
}

/** The plan of a delta, for whoever has the one that it was made against. */
export function applyDelta({ parts, layers }: PlanDelta, have: Plan | null): Plan {
  const before = groupsOf(have);
  return {
    ...(have as Plan),
    ...parts,
    layers: layers.map(({ layer, groups }) => {
      const whole = typeof layer === "string" ? (have?.layers.find((l) => l.id === layer) as LayerPlan) : layer;
      return {
        ...whole,
        groups: groups.map((g) => ({ ...g, zones: zonesOf(g.zones, before.get(`${whole.id}/${g.id}`) ?? []) })),
      };
    }),
  };
}

function zonesOf(runs: readonly Run[], before: readonly Zone[]): readonly Zone[] {
  const [only] = runs;
  if (runs.length === 1 && only && "from" in only && only.from === 0 && only.count === before.length) return before;
  // Runs are copied whole, thousands of zones at once.
  const [first = [], ...rest] = runs.map((run) =>
    "zones" in run ? run.zones : before.slice(run.from, run.from + run.count),
  );
  return first.concat(...rest);
}
