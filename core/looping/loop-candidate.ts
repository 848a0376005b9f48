import { type Note, nameOfNote } from "../audio";
import { type Flattening, type LoopMode, newLoop } from "../instrument";
import type { FoundBeat } from "./beat";

/** What a sound is, as far as loops go: a tone of a pitch, a texture without one, or a beat. */
export type LoopKind = "tone" | "texture" | "beat";

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
  /** How far the level moves by itself in the whole sound, within two seconds, in decibels: a pulse of so much is its own. */
  readonly life: number;
  /** The largest change of spectrum at the seam against what is usual in the loop. */
  readonly change: number;
  /** Decibels by which what is highest in pitch rises at the seam beyond what it does elsewhere in the loop. */
  readonly click: number;
  /** Decibels by which the level leaves, while the seam is crossed, the range in which it lies elsewhere in the loop. */
  readonly swing: number;
  /** Decibels by which the level, or the difference of left and right, moves less in the loop than in the whole sound. */
  readonly lost: number;
  /** How many periods it has; null where there is no pitch. */
  readonly periods: number | null;
  /** How many bars it has; null where there is no beat. */
  readonly bars: number | null;
}

/** How far the level moves while a loop goes round beyond what the sound does by itself, in decibels. */
export const strangePulse = ({ pulse, life }: LoopParts): number => Math.max(0, pulse - 1.25 * life);

/** A loop that is proposed: frames `[start, end)`, its crossfade with the law, a score from 0 to 100, and why. */
export interface LoopCandidate {
  readonly start: number;
  readonly end: number;
  readonly mode: LoopMode;
  readonly crossfade: number;
  readonly law: "match" | "gain" | "power";
  /** What keeps it even; null where it is as loud as the sound is. */
  readonly flat: Flattening | null;
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
  /** Which are better where they are as good otherwise; without it, those of about a second and more. */
  readonly prefer?: "short" | "long";
  /** What the sound is; without it that is guessed. */
  readonly kind?: LoopKind;
  /** Its beat, where it is known. */
  readonly beat?: Pick<FoundBeat, "tempo" | "downbeat" | "bar"> | null;
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
  /** The beat that was found in it, or that it was said to have. */
  readonly beat: Pick<FoundBeat, "tempo" | "downbeat" | "bar"> | null;
  readonly candidates: readonly LoopCandidate[];
  readonly none: string | null;
}

/** What a sound was taken for, in words. */
export const kindText = ({ kind, note, beat }: Pick<LoopAnswer, "kind" | "note" | "beat">): string => {
  if (kind === "beat" && beat) return `a beat of ${beat.tempo.toFixed(1)} bpm`;
  return kind === "tone" && note !== null ? `a tone, ${nameOfNote(Math.round(note))}` : "a texture without a pitch";
};

/** A candidate as a zone's loop. */
export const loopOfCandidate = ({
  start,
  end,
  mode,
  crossfade: fade,
  law,
  flat,
}: Pick<LoopCandidate, "start" | "end" | "mode" | "crossfade" | "law" | "flat">) =>
  newLoop({ start, end, mode, fade, law, flat });
