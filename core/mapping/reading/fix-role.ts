import { type Column, columnOf, selectorsFor } from "./columns";
import { byEar, judge, noteChoice, type Sounds } from "./judge";
import { MANNERS, type Role } from "./meanings";
import { piecesOf } from "./pieces";
import { overlaps } from "./read-names";
import type { NamedSound, Reading } from "./reading";

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
  const names = sounds.map((s) => piecesOf(s.path, options));
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
  const of = (wanted: Role): Column | null => columns.find((c) => c.role === wanted) ?? null;
  const heard: Sounds = { pitches: sounds.map((s) => s.pitch), loudness: sounds.map((s) => s.loudness) };
  const told = of("note");
  const note = told ? noteChoice(told, heard) : byEar(heard);
  const [strength, repeat, group, microphone, trigger] = (
    ["strength", "repeat", "group", "microphone", "trigger"] as const
  ).map(of);
  const parts = {
    strength: strength ?? null,
    repeat: repeat ?? null,
    group: group ?? null,
    microphone: microphone ?? null,
    trigger: trigger ?? null,
  };
  const { score, levels, falling } = judge(note, parts, heard);
  return {
    columns: Object.fromEntries(columns.map((c) => [c.role, c])),
    options,
    shift: note.shift,
    agreement: note.agreement,
    levels,
    falling,
    score,
  };
}
