/** The ids from one to another, both included, in the order that is shown; the latter alone where the former isn't there. */
export function between(order: readonly string[], from: string | undefined, to: string): string[] {
  const [a, b] = [from === undefined ? -1 : order.indexOf(from), order.indexOf(to)];
  return a < 0 ? [to] : order.slice(Math.min(a, b), Math.max(a, b) + 1);
}
