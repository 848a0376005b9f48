import { nameOfNote, parseNote } from "../audio";
import type { Shot } from "../instrument";

/** What a shot list is built of: notes or names, how many strengths and repeats of each. */
export interface ShotPlan {
  readonly notes: readonly (number | string)[];
  readonly strengths: number;
  readonly repeats: number;
}

const STRENGTH_NAMES: Readonly<Record<number, readonly string[]>> = {
  1: [""],
  2: ["soft", "hard"],
  3: ["soft", "medium", "hard"],
  4: ["very soft", "soft", "hard", "very hard"],
};

/** How a strength is called among so many; empty where there is but one. */
export const nameOfStrength = (strength: number, of: number): string =>
  STRENGTH_NAMES[of]?.[strength - 1] ?? `velocity layer ${strength} of ${of}`;

/** The entries of a plan in the order in which they are struck: note by note, softest first, repeats in a row. */
export function makeShots({ notes, strengths, repeats }: ShotPlan): Shot[] {
  const within = (x: number, most: number) => Math.min(most, Math.max(1, Math.round(x)));
  const [s, r] = [within(strengths, 127), within(repeats, 100)];
  const shots: Shot[] = [];
  for (const note of notes) {
    for (let strength = 1; strength <= s; strength++) {
      for (let repeat = 1; repeat <= r && shots.length < 20000; repeat++) {
        shots.push({
          id: `shot${shots.length + 1}`,
          name: typeof note === "string" ? note : nameOfNote(note),
          note: typeof note === "number" ? note : null,
          strength,
          strengths: s,
          repeat,
          state: "open",
        });
      }
    }
  }
  return shots;
}

/** Notes from one to another (both ends) in steps of so many semitones. */
export function noteRange(low: number, high: number, step: number): number[] {
  if (!(step >= 1)) throw new RangeError(`notes can't be ${step} semitones apart`);
  const notes: number[] = [];
  for (let note = Math.min(low, high); note <= Math.max(low, high); note += Math.round(step)) notes.push(note);
  return notes;
}

/** What somebody typed as a list of sounds, understood; or the word that wasn't. */
export type TypedPlan = { readonly ok: true; readonly plan: ShotPlan } | { readonly ok: false; readonly word: string };

/**
 * Reads a typed list in order: notes (`C3 D#3 F3`), ranges of notes (`C3..C5` or with a step `C3..C5/3`), names of other things
 * (`"brake lever"` or one word), `x3` for three repeats of each, `v2` for two velocity layers (`s2` before version 14). Commas and lines part as spaces do.
 */
export function readPlan(text: string): TypedPlan {
  const words = text.match(/"[^"]*"|[^\s,;]+/g) ?? [];
  const notes: (number | string)[] = [];
  let [strengths, repeats] = [1, 1];
  for (const word of words) {
    const count = /^([xvs×])(\d{1,3})$/i.exec(word);
    if (count) {
      const n = Number(count[2]);
      if (n < 1) return { ok: false, word };
      if (/[vs]/i.test(count[1] ?? "")) strengths = n;
      else repeats = n;
      continue;
    }
    if (/^(repeats?|layers?|strengths?)$/i.test(word)) continue;
    const range = /^([A-Ga-g][#♯b♭]?-?\d)\.\.([A-Ga-g][#♯b♭]?-?\d)(?:\/(\d{1,2}))?$/.exec(word);
    if (range) {
      const [low, high, step] = [parseNote(range[1] ?? ""), parseNote(range[2] ?? ""), Number(range[3] ?? 1)];
      if (low === null || high === null || step < 1) return { ok: false, word };
      notes.push(...noteRange(low, high, step));
      continue;
    }
    const note = /^[A-Ga-g]/.test(word) ? parseNote(word) : null;
    if (note !== null) notes.push(note);
    else if (/^"[^"]+"$/.test(word)) notes.push(word.slice(1, -1));
    else if (/^[\p{L}][\p{L}\d_-]*$/u.test(word)) notes.push(word);
    else return { ok: false, word };
  }
  return notes.length > 0 ? { ok: true, plan: { notes, strengths, repeats } } : { ok: false, word: text.trim() };
}

/** The first entry that is neither done nor skipped, from `after` on and then from the beginning; null when all is done. */
export function nextShot(shots: readonly Shot[], after = 0): Shot | null {
  return shots.slice(after).find((s) => s.state === "open") ?? shots.find((s) => s.state === "open") ?? null;
}
