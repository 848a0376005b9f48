import type { Decibels, Seconds, Semitones } from "../audio";

/** How a shot list is walked hands-free: what counts as a sound, and as the note that was asked for. */
export interface HandsFree {
  /** How far above the room a sound must rise. */
  readonly threshold: Decibels;
  /** How long it must be quiet again until it counts as over. */
  readonly quiet: Seconds;
  /** Longest sound: what rings longer is cut there, and the next is waited for once it has died away. */
  readonly longest: Seconds;
  /** How far a sound may be off the note that was asked for; 0: its pitch isn't asked, as of bells and drums. */
  readonly tolerance: Semitones;
}

export const HANDS_FREE: HandsFree = { threshold: 15, quiet: 0.35, longest: 30, tolerance: 0.6 };

/** What each may be. */
export const HANDS_FREE_LIMITS: Readonly<Record<keyof HandsFree, readonly [number, number]>> = {
  threshold: [3, 60],
  quiet: [0.05, 10],
  longest: [0.2, 300],
  tolerance: [0, 12],
};

/** Settings from outside, such as a browser's store: each within its limits, the usual ones where they say nothing. */
export function settleHandsFree(raw: unknown): HandsFree {
  const given = typeof raw === "object" && raw !== null ? (raw as Record<string, unknown>) : {};
  const one = (id: keyof HandsFree): number => {
    const [least, most] = HANDS_FREE_LIMITS[id];
    const value = given[id];
    return typeof value === "number" && Number.isFinite(value)
      ? Math.min(most, Math.max(least, value))
      : HANDS_FREE[id];
  };
  return { threshold: one("threshold"), quiet: one("quiet"), longest: one("longest"), tolerance: one("tolerance") };
}
