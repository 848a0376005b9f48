import { type Column, columnOf } from "./columns";
import { nearestOf } from "./judge";
import type { Role } from "./meanings";
import { takeApart } from "./pieces";
import type { NamedSound, NameReading, Reading, ReadPiece } from "./reading";

/** Names taken apart as a reading does it. */
export interface AppliedReading {
  readonly names: readonly NameReading[];
  readonly pieces: readonly (readonly ReadPiece[])[];
}

/** Reads all names of a set in one way. */
export function applyReading(reading: Reading, sounds: readonly NamedSound[]): AppliedReading {
  const names = takeApart(
    sounds.map((s) => s.path),
    reading.options,
  );
  const columns = Object.values(reading.columns).map((c) => columnOf(names, c.role, c.manner, c.selector, c.german));
  const of = (role: Role): Column | null => columns.find((c) => c.role === role) ?? null;
  const [note, strength, repeat, microphone, trigger, group] = (
    ["note", "strength", "repeat", "microphone", "trigger", "group"] as const
  ).map(of);
  const most = Math.max(0, ...(strength?.meanings.map((m) => Number(m?.value ?? 0)) ?? []));
  const velocities = (n: number): NameReading["velocities"] => {
    const hit = strength?.meanings[n];
    if (!strength || !hit || typeof hit.value !== "number") return null;
    if (strength.manner === "range") return { low: hit.low ?? null, high: hit.value };
    if (strength.manner === "percent") return { low: null, high: Math.round(1.27 * hit.value) };
    // Numbers that reach so high are velocities, others but ranks.
    return strength.manner === "top" && !reading.falling && most >= 100 ? { low: null, high: hit.value } : null;
  };
  const rows = names.map((_, n): NameReading => {
    const told = note?.meanings[n] ?? null;
    const hit = strength?.meanings[n] ?? null;
    const value = typeof hit?.value === "number" ? hit.value : null;
    const pitch = sounds[n]?.pitch ?? null;
    const called =
      told === null
        ? null
        : note?.manner === "class"
          ? nearestOf(told.value as number, pitch)
          : Math.round(told.value as number) + reading.shift;
    return {
      note: called !== null && called >= 0 && called <= 127 ? called : null,
      strength: value === null ? null : reading.falling ? -value : value,
      velocities: velocities(n),
      repeat: typeof repeat?.meanings[n]?.value === "number" ? (repeat.meanings[n]?.value as number) : null,
      microphone: (microphone?.meanings[n]?.value as string | undefined) ?? null,
      trigger: (trigger?.meanings[n]?.value as "noteOn" | "noteOff" | undefined) ?? null,
      group: (group?.meanings[n]?.value as string | undefined) ?? null,
    };
  });
  const pieces = names.map(({ pieces: all }, n) =>
    all.map((piece, i): ReadPiece => {
      const column = columns.find((c) => {
        const at = c.at[n] as number;
        return at >= 0 && i >= at && i < at + (c.meanings[n]?.pieces ?? 1);
      });
      return { start: piece.start, end: piece.end, role: column?.role ?? null };
    }),
  );
  return { names: rows, pieces };
}
