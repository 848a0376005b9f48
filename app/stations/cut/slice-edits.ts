import { noteOfSlice } from "../../../core/formats";
import { changeSlices, type Slice, type Take } from "../../../core/instrument";
import { overallDetune, type SortedSlices } from "../../../core/mapping";
import { plural } from "../../../core/params";
import { tell } from "../../state/notices";
import { session } from "../../state/session";

/** Moves one edge of several slices by so many seconds. */
export function nudge(take: Take, ids: ReadonlySet<string>, edge: "start" | "end", seconds: number): void {
  const by = Math.round(seconds * take.rate);
  const word = `Move ${ids.size === 1 ? "" : "all "}${edge}${ids.size === 1 ? "" : "s"}`;
  session.commit(
    changeSlices(take.id, ids, word, (s) => moved(s, edge, s[edge] + by)),
    `nudge-${edge}`,
  );
}

/** A slice with one edge at another frame; the other edge stays, at least 64 frames away. */
export const moved = (s: Slice, edge: "start" | "end", frame: number): Slice => ({
  ...s,
  edited: true,
  [edge]: edge === "start" ? Math.min(frame, s.end - 64) : Math.max(frame, s.start + 64),
});

/** Moves the notes of several slices by semitones; those without a note begin at middle C. */
export const transpose = (take: Take, ids: ReadonlySet<string>, by: number): void =>
  session.commit(
    changeSlices(take.id, ids, `Notes by ${by > 0 ? "+" : "−"}${Math.abs(by)}`, (s) => ({
      ...s,
      note: Math.min(127, Math.max(0, (noteOfSlice(s) ?? 60) + by)),
    })),
    "transpose",
  );

export const setKeep = (take: Take, ids: ReadonlySet<string>, keep: boolean): void =>
  session.commit(
    changeSlices(take.id, ids, keep ? `Include ${ids.size}` : `Exclude ${ids.size} out`, (s) => ({ ...s, keep })),
  );

/** How far the kept, pitched slices of a take are off all together, in cents. */
export const detuneOf = (take: Take): number =>
  overallDetune(take.slices.flatMap((s) => (s.keep && s.pitch !== null && s.confidence > 0.6 ? [s.pitch] : [])));

/** Gives each measured slice the note that it has once the common detuning is taken off; its cents stay what they are. */
export function correctDetune(take: Take): void {
  const by = detuneOf(take) / 100;
  const ids = new Set(take.slices.flatMap((s) => (s.pitch !== null && s.note === null ? [s.id] : [])));
  session.commit(
    changeSlices(take.id, ids, "Correct the common detuning", (s) =>
      s.pitch === null ? s : { ...s, note: Math.min(127, Math.max(0, Math.round(s.pitch - by))) },
    ),
  );
}

/** Writes what sorting found into the slices, as one step, and says what came of it. */
export function applySorting(take: Take, name: string, { roles, over }: SortedSlices): void {
  if (roles.size === 0) {
    tell("warning", `${name}: nothing could be sorted this way.`);
    return;
  }
  session.commit(
    changeSlices(take.id, new Set(roles.keys()), name, (s) => {
      const role = roles.get(s.id);
      if (!role) return s;
      const note = role.note === null || role.note === noteOfSlice(s) ? s.note : role.note;
      return { ...s, note, strength: role.strength, repeat: role.repeat };
    }),
  );
  const rest =
    over > 0
      ? ` ${plural(over, "entry has", "entries have")} no sound.`
      : over < 0
        ? ` ${plural(-over, "sound is", "sounds are")} left as ${over === -1 ? "it was" : "they were"}.`
        : "";
  tell(over === 0 ? "good" : "warning", `${name}: ${plural(roles.size, "sound")} sorted.${rest}`, session.undoAction());
}
