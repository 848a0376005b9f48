import type { Column } from "./columns";
import { byEar, judge, noteChoice, type Sounds } from "./judge";
import type { Role } from "./meanings";
import type { PieceOptions } from "./pieces";
import type { NamedSound, Reading } from "./reading";

/** The reading that some columns make, with how well it agrees with the sounds. */
export function readingOf(columns: readonly Column[], options: PieceOptions, sounds: readonly NamedSound[]): Reading {
  const of = (wanted: Role): Column | null => columns.find((c) => c.role === wanted) ?? null;
  const heard: Sounds = { pitches: sounds.map((s) => s.pitch), loudness: sounds.map((s) => s.loudness) };
  const told = of("note");
  const note = told ? noteChoice(told, heard) : byEar(heard);
  const parts = {
    strength: of("strength"),
    repeat: of("repeat"),
    group: of("group"),
    microphone: of("microphone"),
    trigger: of("trigger"),
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
