import type { SfzRegion } from "./program";
import { numberIn } from "./region-reader";

/** Most groups that silence one another. */
const MOST = 32;

const numberOf = (region: SfzRegion, name: string): number =>
  Math.round(numberIn(region.opcodes.get(name)?.value ?? "") ?? 0);

/** Numbers of at most so many groups: their own where these can be, else those that are free. */
function numbersOf(groups: readonly number[]): Map<number, number> {
  const numbers = new Map(groups.filter((g) => g <= MOST).map((g) => [g, g]));
  const taken = new Set(numbers.values());
  let free = 1;
  for (const group of groups) {
    while (taken.has(free)) free++;
    if (numbers.has(group) || free > MOST) continue;
    numbers.set(group, free);
    taken.add(free);
  }
  return numbers;
}

/** The choke groups of regions: those that `group` and `off_by` connect have one number. */
export function chokesOf(regions: readonly SfzRegion[]): {
  readonly of: (region: SfzRegion) => number;
  readonly problems: readonly string[];
} {
  const parent = new Map<number, number>();
  const root = (n: number): number => {
    let at = n;
    for (let up = parent.get(at); up !== undefined && up !== at; up = parent.get(at)) at = up;
    return at;
  };
  const offBy = new Set<number>();
  let oneSided = 0;
  for (const region of regions) {
    const by = numberOf(region, "off_by");
    const group = numberOf(region, "group");
    if (by <= 0) continue;
    offBy.add(by);
    if (group > 0 && group !== by) {
      parent.set(root(group), root(by));
      oneSided++;
    }
  }
  const numbers = numbersOf([...offBy].sort((a, b) => a - b).map(root));
  const problems: string[] = [];
  if (new Set([...offBy].map(root)).size > numbers.size)
    problems.push(`More than ${MOST} groups silence one another; those beyond sound on.`);
  if (oneSided > 0) problems.push("Groups that silence another one only one way silence each other here.");
  const chosen = new Map<SfzRegion, number>();
  for (const region of regions) {
    const by = numberOf(region, "off_by");
    const group = numberOf(region, "group");
    const member = by > 0 ? by : group > 0 && offBy.has(group) ? group : 0;
    chosen.set(region, member > 0 ? (numbers.get(root(member)) ?? 0) : 0);
  }
  return { of: (region) => chosen.get(region) ?? 0, problems };
}
