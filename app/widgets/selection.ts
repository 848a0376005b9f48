/** How something in a list was chosen: alone, besides others, with all in between, or only because a menu opens on it. */
export type Choosing = "" | "one" | "range" | "menu";

/** What is selected once `id` was chosen from a list in the order that is shown; of what was selected before, the last that the list still shows is where a range begins. */
export function selectionAfter(
  before: ReadonlySet<string>,
  id: string,
  how: Choosing,
  order: readonly string[],
): ReadonlySet<string> {
  const next = new Set(how === "" || how === "menu" ? [] : before);
  if (how === "range") for (const other of between(order, lastIn(order, before), id)) next.add(other);
  else if (next.has(id)) next.delete(id);
  else next.add(id);
  return next;
}

/** What was selected last of all that is in the list: what was joined, removed or filtered out since begins no range. */
function lastIn(order: readonly string[], selected: ReadonlySet<string>): string | undefined {
  const shown = new Set(order);
  return [...selected].findLast((id) => shown.has(id));
}

/** The ids from one to another, both included, in the order that is shown; the latter alone where the former isn't there. */
function between(order: readonly string[], from: string | undefined, to: string): string[] {
  const [a, b] = [from === undefined ? -1 : order.indexOf(from), order.indexOf(to)];
  return a < 0 ? [to] : order.slice(Math.min(a, b), Math.max(a, b) + 1);
}
