import type { Decibels, Seconds } from "../audio";
import type { Levels } from "./levels";

/** How sounds are told from the room. */
export interface FindOptions {
  /** Level above the noise floor at which a sound begins. */
  readonly threshold: Decibels;
  /** Shorter sounds are left out. */
  readonly minLength: Seconds;
  /** What is kept before the attack. */
  readonly preRoll: Seconds;
}

export const FIND_DEFAULTS: FindOptions = { threshold: 18, minLength: 0.06, preRoll: 0.003 };

/** A sound in a take: `[start, end)` and where its attack is, in frames. */
export interface FoundSlice {
  readonly start: number;
  readonly end: number;
  readonly onset: number;
}

/** How far the level must rise within a few milliseconds for a new sound to begin inside one that still rings. */
const RISE: Decibels = 12;
/** How long a sound must stay near the floor before it has ended, in steps of a millisecond. */
const HOLD = 60;

/**
 * Finds the sounds of a take by level: one begins where the peak passes floor + threshold, and ends where the power has
 * stayed within a third of the threshold of the floor for 60 ms, or where a new attack rises out of it. One pass, O(steps).
 */
export function findSlices(levels: Levels, options: FindOptions = FIND_DEFAULTS): FoundSlice[] {
  const { peak, power, step, floor, rate, frames } = levels;
  // The peak of noise stands about 10 dB above its power.
  const open = floor + Math.max(options.threshold, 3) + 6;
  const close = floor + Math.max(2, options.threshold / 3);
  const roll = Math.round(options.preRoll * rate);
  const shortest = Math.round(options.minLength * rate);
  const found: FoundSlice[] = [];
  let onset = -1;
  let quiet = 0;
  let recent = -120;
  const finish = (endStep: number) => {
    const start = Math.max(0, onset * step - roll, found.at(-1)?.end ?? 0);
    const end = Math.min(frames, endStep * step);
    if (end - onset * step >= shortest) found.push({ start, end, onset: onset * step });
    onset = -1;
  };
  for (let s = 0; s < peak.length; s++) {
    const now = peak[s] as number;
    if (onset < 0) {
      if (now >= open) {
        onset = s;
        quiet = 0;
        recent = now;
      }
      continue;
    }
    // `recent` follows the peak down slowly, so that an attack stands out from a ringing sound.
    const attack = s - onset > 40 && now >= open && now > recent + RISE;
    recent = Math.max(now, recent - 0.25);
    if (attack) {
      const at = s;
      finish(at - Math.round(roll / step));
      onset = at;
      quiet = 0;
      continue;
    }
    quiet = (power[s] as number) < close ? quiet + 1 : 0;
    if (quiet >= HOLD) finish(s - HOLD + 10);
  }
  if (onset >= 0) finish(peak.length);
  return found;
}
