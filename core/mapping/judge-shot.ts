import { pitchFinderOf, SURE } from "../analysis";
import {
  type Audio,
  type Decibels,
  decibelsOf,
  framesOf,
  type Hertz,
  monoOf,
  nameOfNote,
  type Semitones,
} from "../audio";
import type { Shot } from "../instrument";
import { HANDS_FREE } from "./hands-free";

/** One sound that landed on an entry: what was measured of it. */
export interface Landed {
  readonly note: number | null;
  readonly strength: number;
  readonly peak: Decibels;
}

/** What is to be said of a sound that came in for an entry. */
export interface ShotVerdict {
  readonly pitch: number | null;
  readonly confidence: number;
  readonly peak: Decibels;
  /** Why it should be struck again, in words; empty when it is good. */
  readonly problems: readonly string[];
}

/** Full scale of the inputs that clip: one step of 16 bits below 1. */
const FULL = 32767 / 32768;

/**
 * Judges a sound against the entry that it was struck for: clipped? hardly louder than the room? off pitch? the wrong way
 * round with the strengths that have landed already? `floor` is the room's level, `tolerance` how far it may be off its note (0: it isn't asked).
 */
export function judgeShot(
  audio: Audio,
  shot: Shot,
  floor: Decibels,
  landed: readonly Landed[],
  tolerance: Semitones = HANDS_FREE.tolerance,
): ShotVerdict {
  const problems: string[] = [];
  let high = 0;
  let full = 0;
  for (const channel of audio.channels) {
    for (const x of channel) {
      const a = Math.abs(x);
      if (a > high) high = a;
      if (a >= FULL) full++;
    }
  }
  const peak = Math.max(-120, decibelsOf(high));
  if (full > 1) problems.push("it clipped: lower the input or strike softer");
  if (peak < floor + 12) problems.push("it hardly stands above the room: strike harder or come closer");
  const { pitch, confidence } = pitchOf(audio);
  if (shot.note !== null && tolerance > 0) {
    if (pitch === null || confidence < SURE)
      problems.push("no clear pitch: was it noise, or a bump? Pitch within 0 takes bells and drums");
    else if (Math.abs(pitch - shot.note) > tolerance)
      problems.push(`it sounds like ${nameOfNote(Math.round(pitch))}, but ${shot.name} was asked for`);
  }
  const same = landed.filter((l) => l.note === shot.note);
  const levels = (strength: number) => same.filter((l) => l.strength === strength).map((l) => l.peak);
  const mean = (x: readonly number[]) => x.reduce((a, b) => a + b, 0) / x.length;
  const softer = levels(shot.strength - 1);
  const harder = levels(shot.strength + 1);
  if (softer.length > 0 && peak < mean(softer) + 1)
    problems.push("too soft for this velocity layer: no louder than the one below");
  if (harder.length > 0 && peak > mean(harder) - 1)
    problems.push("too hard for this velocity layer: no softer than the one above");
  return { pitch, confidence, peak, problems };
}

function pitchOf(audio: Audio): { pitch: number | null; confidence: number } {
  const rate: Hertz = audio.rate;
  const finder = pitchFinderOf(rate);
  const { note, confidence } = finder.find(monoOf(audio), 0, framesOf(audio));
  return { pitch: note, confidence };
}
