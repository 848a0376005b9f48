import type { Decibels, Seconds } from "../audio";
import { COARSE, type Levels } from "./levels";

/** How sounds are told from the room. */
export interface FindOptions {
  /** Level above the noise floor at which a sound begins. */
  readonly threshold: Decibels;
  /** How far below the threshold it must fall to have ended. */
  readonly hysteresis: Decibels;
  /** How long it must stay below to have ended. */
  readonly hold: Seconds;
  /** Least time from one attack to the next. */
  readonly minGap: Seconds;
  /** Shorter sounds are left out. */
  readonly minLength: Seconds;
  /** What is kept before the attack. */
  readonly preRoll: Seconds;
  /** What is kept after the sound has reached the floor. */
  readonly tail: Seconds;
}

export const FIND_DEFAULTS: FindOptions = {
  threshold: 13,
  hysteresis: 8,
  hold: 0.06,
  minGap: 0.04,
  minLength: 0.015,
  preRoll: 0.003,
  tail: 0.01,
};

/** A sound in a take: `[start, end)` and where its attack is, in frames. */
export interface FoundSlice {
  readonly start: number;
  readonly end: number;
  readonly onset: number;
}

/** How far the level must rise within a few milliseconds for a new sound to begin inside one that still rings. */
const RISE: Decibels = 12;
/** A tail has reached the floor where the power is so little above it. */
const AT_FLOOR: Decibels = 3;

/** A rise is followed back so far, where it is uneven by less than so much, and down to so much above the power of noise: its peaks reach that. */
const LONGEST_RISE: Seconds = 0.012;
const UNEVEN: Decibels = 1;
const ABOVE_NOISE: Decibels = 13;

const stepsOf = (levels: Levels, seconds: Seconds): number => Math.round((seconds * levels.rate) / levels.step);

/**
 * Finds the sounds of a take by level: one begins where the peak passes floor + threshold; it has ended where the power has
 * stayed under the threshold less the hysteresis for the hold, and is kept until it reaches the floor, or a new attack rises
 * out of it. One pass, O(steps).
 */
export function findSlices(levels: Levels, options: FindOptions = FIND_DEFAULTS): FoundSlice[] {
  const { peak, coarse, power, step, floor, rate, frames } = levels;
  // The peak of noise stands about 10 dB above its power.
  const open = floor + Math.max(options.threshold, 3) + 6;
  const close = floor + Math.max(2, options.threshold - options.hysteresis);
  const [hold, gap, tail] = [options.hold, options.minGap, options.tail].map((s) => stepsOf(levels, s)) as [
    number,
    number,
    number,
  ];
  const roll = Math.round(options.preRoll * rate);
  const shortest = Math.round(options.minLength * rate);
  const found: FoundSlice[] = [];
  let onset = -1;
  let quiet = 0;
  // Where the level first came down to the floor since it has been quiet.
  let touched = -1;
  let recent = -120;
  const finish = (endStep: number) => {
    const start = Math.max(0, onset * step - roll, found.at(-1)?.end ?? 0);
    const end = Math.min(frames, endStep * step);
    if (end - onset * step >= shortest) found.push({ start, end, onset: onset * step });
    onset = -1;
  };
  // A sound that swells has begun before it is as loud as that: where it rose out of the noise.
  const risen = (s: number): number => {
    const first = Math.max(0, s - stepsOf(levels, LONGEST_RISE), Math.ceil((found.at(-1)?.end ?? 0) / step));
    let at = s;
    while (at > first) {
      const before = peak[at - 1] as number;
      if (before < floor + ABOVE_NOISE || before > (peak[at] as number) + UNEVEN) break;
      at--;
    }
    return at;
  };
  const begin = (first: number, s: number) => {
    onset = first;
    quiet = 0;
    touched = -1;
    recent = peak[s] as number;
  };
  for (let s = 0; s < peak.length; s++) {
    const now = peak[s] as number;
    if (onset < 0) {
      if (s % COARSE === 0 && (coarse[s / COARSE] as number) < open) s += COARSE - 1;
      else if (now >= open) begin(risen(s), s);
      continue;
    }
    // `recent` follows the peak down slowly, so that an attack stands out from a ringing sound.
    const again = now >= open && (quiet >= hold || now > recent + RISE);
    recent = Math.max(now, recent - 0.25);
    if (again && s - onset > gap) {
      finish(s - Math.round(roll / step));
      begin(s, s);
      continue;
    }
    const level = power[s] as number;
    quiet = level < close ? quiet + 1 : 0;
    if (quiet === 0) touched = -1;
    else if (touched < 0 && level < floor + AT_FLOOR) touched = s;
    if (quiet >= hold && touched >= 0) finish(touched + tail);
  }
  if (onset >= 0) finish(peak.length);
  return found;
}

/**
 * Slices between attacks (frames, rising): each lasts until the next attack, or until the level has come down to the floor.
 */
export function sliceAtAttacks(levels: Levels, attacks: readonly number[], options: FindOptions): FoundSlice[] {
  const { power, step, floor, rate, frames } = levels;
  const roll = Math.round(options.preRoll * rate);
  const hold = stepsOf(levels, options.hold);
  const tail = Math.round(options.tail * rate);
  const shortest = Math.round(options.minLength * rate);
  const found: FoundSlice[] = [];
  attacks.forEach((onset, i) => {
    const limit = Math.max(onset + 1, (attacks[i + 1] ?? frames + roll) - roll);
    let end = limit;
    let quiet = 0;
    for (let s = Math.floor(onset / step) + 20; s * step < limit; s++) {
      quiet = (power[s] as number) < floor + AT_FLOOR ? quiet + 1 : 0;
      if (quiet < hold) continue;
      end = Math.min(limit, (s - hold) * step + tail);
      break;
    }
    if (end - onset >= shortest) found.push({ start: Math.max(0, onset - roll), end, onset });
  });
  return found;
}

/** Equal parts of so many seconds, the first beginning at `origin`; the last may be shorter. */
export function sliceByGrid(frames: number, rate: number, part: Seconds, origin: Seconds): FoundSlice[] {
  if (!(part * rate >= 64)) throw new RangeError(`a part of ${part} s is too short to be a slice`);
  const found: FoundSlice[] = [];
  for (let k = 0; found.length < 20000; k++) {
    const start = Math.round((origin + k * part) * rate);
    if (start >= frames) break;
    found.push({ start, end: Math.min(frames, Math.round((origin + (k + 1) * part) * rate)), onset: start });
  }
  return found;
}

/** Slices at markers (frames): regions as they are, points until the next marker or the end. */
export function sliceAtMarkers(
  frames: number,
  markers: readonly { readonly at: number; readonly length: number }[],
): FoundSlice[] {
  const sorted = markers.filter((m) => m.at >= 0 && m.at < frames).sort((a, b) => a.at - b.at);
  return sorted.flatMap((m, i) => {
    const next = sorted.slice(i + 1).find((n) => n.at > m.at)?.at ?? frames;
    const end = Math.min(frames, m.length > 0 ? m.at + m.length : next);
    return end > m.at ? [{ start: m.at, end, onset: m.at }] : [];
  });
}
