import { type Note, nameOfNote } from "../audio";

/** What a sound is, as far as loops go: a tone of a pitch, or a texture without one. */
export type LoopKind = "tone" | "texture";

/** What is measured of a loop. */
export interface LoopParts {
  /** How alike both sides of the joint are, −1 to 1. */
  readonly alike: number;
  /** The level at the end against that at the start, in decibels. */
  readonly level: number;
  /** How unlike their colours are: mean difference of the bands' levels, in decibels. */
  readonly colour: number;
  /** How far the level moves while the loop goes round, in decibels. */
  readonly pulse: number;
  /** The largest change of spectrum at the seam against what is usual in the loop. */
  readonly change: number;
  /** How many periods it has; null where there is no pitch. */
  readonly periods: number | null;
}

/** A loop that is proposed: frames `[start, end)`, its crossfade with the law, a score from 0 to 100, and why. */
export interface LoopCandidate {
  readonly start: number;
  readonly end: number;
  readonly mode: "forward";
  readonly crossfade: number;
  readonly law: "gain" | "power";
  readonly score: number;
  readonly parts: LoopParts;
  readonly reason: string;
}

/** What may be asked for; lengths in seconds. */
export interface LoopWish {
  /** Frames `[start, end)` of the sound that may be played. */
  readonly start?: number;
  readonly end?: number;
  readonly shortest?: number;
  readonly longest?: number;
  /** How many candidates are wanted. */
  readonly count?: number;
  /** The pitch, where it is known; null looks for it. */
  readonly note?: Note | null;
  /** A pulse above that is worse than no loop, in decibels. */
  readonly mostPulse?: number;
}

/** Loops of a sound, best first; where there are none, why. */
export interface LoopAnswer {
  readonly kind: LoopKind;
  readonly note: Note | null;
  readonly candidates: readonly LoopCandidate[];
  readonly none: string | null;
}

/** What a sound was taken for, in words. */
export const kindText = ({ kind, note }: LoopAnswer): string =>
  kind === "tone" && note !== null ? `a tone, ${nameOfNote(Math.round(note))}` : "a texture without a pitch";
