import { type Column, columnOf, selectorsFor } from "./columns";
import { MANNERS, type Role } from "./meanings";
import { takeApart } from "./pieces";
import { overlaps } from "./read-names";
import type { NamedSound, Reading } from "./reading";
import { readingOf } from "./reading-of";

/**
 * A reading in which one piece of one name is taken for something else, and so are the same pieces of all other names; `role` null: it means nothing.
 * What was taken for that before gives way. Null where the piece can't mean that.
 */
export function fixRole(
  reading: Reading,
  sounds: readonly NamedSound[],
  name: number,
  piece: number,
  role: Role | null,
): Reading | null {
  const { options } = reading;
  const names = takeApart(
    sounds.map((s) => s.path),
    options,
  );
  const before = Object.values(reading.columns).map((c) => columnOf(names, c.role, c.manner, c.selector, c.german));
  const holds = (c: Column): boolean => {
    const at = c.at[name] as number;
    return at >= 0 && piece >= at && piece < at + (c.meanings[name]?.pieces ?? 1);
  };
  let columns = before.filter((c) => !holds(c) && c.role !== role);
  if (role) {
    const german = before.some((c) => c.german);
    const worth = (c: Column): number => c.coverage * (0.3 + c.likely) + (c.distinct > 1 ? 0.2 : 0);
    const [best] = MANNERS[role]
      .flatMap((manner) => selectorsFor(names).map((selector) => columnOf(names, role, manner, selector, german)))
      .filter((c) => c.at[name] === piece)
      .sort((a, b) => worth(b) - worth(a));
    if (!best) return null;
    columns = [...columns.filter((c) => !overlaps(c, best)), best];
  }
  return readingOf(columns, options, sounds);
}
