import { PitchFinder, SURE } from "../analysis";
import { type Audio, framesOf, hertzOf, monoOf, type Note, nameOfNote } from "../audio";
import { type Loop, newLoop } from "../instrument";
import { findJoints, type Joint, refineJoint } from "./joints";
import { reasonOf } from "./reason";
import { type LoopRegion, regionOf, STEP } from "./region";
import { measureSeam, OwnChange } from "./seam";
import { Spectra } from "./spectra";

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

const LONGEST = 8;
const COUNT = 8;
const MOST_PULSE = 9;
/** A seam that changes the spectrum by so much more than the sound itself does is heard. */
const MOST_CHANGE = 3;
/** With a change below that a seam is as the rest of the sound. */
const UNHEARD = 1.15;
const ENDS = 20;
const STARTS = 14;
/** Joints that are looked at closely. */
const CLOSELY = 24;
/** Shares of a loop over which it may be crossfaded, and the longest crossfade in seconds. */
const FADES = [0, 0.1, 0.25, 0.5] as const;
const LONGEST_FADE = 0.5;

/** Everything that is known of a sound before its loops are judged. */
interface Subject {
  readonly channels: readonly Float32Array[];
  readonly rate: number;
  readonly start: number;
  readonly region: LoopRegion;
  readonly spectra: Spectra;
  readonly own: OwnChange;
  readonly period: number | null;
}

/**
 * Finds loops in a sound. Pairs of places that run alike (normalised cross-correlation) are judged by their levels, their colours, how far the level moves
 * between them, and by the spectral flux of the seam as it will be played, with several crossfades; of loops that are nearly the same one is kept. The attack
 * and the end are never in a loop. The answer depends on nothing but the sound and the wish.
 */
export function findLoops(audio: Audio, wish: LoopWish = {}): LoopAnswer {
  const { rate, channels } = audio;
  const start = Math.max(0, wish.start ?? 0);
  const end = Math.min(framesOf(audio), wish.end ?? framesOf(audio));
  const none = (why: string, kind: LoopKind = "texture", note: Note | null = null): LoopAnswer => ({
    ...{ kind, note, candidates: [], none: why },
  });
  if (end - start < 64) return none(`it is ${end - start} frames long: too short for a loop`);
  const region = regionOf(channels, rate, start, end);
  if (!region) return none("it is silent, or over as soon as its attack is");
  const note = wish.note === undefined || wish.note === null ? pitchOf(audio, region) : wish.note;
  const period = note === null ? null : rate / hertzOf(note);
  const kind: LoopKind = period === null ? "texture" : "tone";
  const shortest = Math.round(Math.max((wish.shortest ?? 0) * rate, period === null ? 0.08 * rate : 2 * period, 32));
  const longest = Math.round((wish.longest ?? LONGEST) * rate);
  if (region.to - region.from < shortest + 8)
    return none("what is left of it behind its attack is shorter than a loop", kind, note);
  const reach = Math.round(period === null ? 0.02 * rate : Math.min(0.05 * rate, Math.max(2 * period, 0.006 * rate)));
  const hop = Math.max(64, Math.round(rate * 0.02));
  const spectra = new Spectra(channels, rate, region.from, region.to, hop);
  const own = new OwnChange(channels, region.from, region.to);
  const subject: Subject = { channels, rate, start, region, spectra, own, period };
  const joints = findJoints(channels, rate, {
    ...{ from: region.from, to: region.to, shortest, longest, reach, ends: ENDS, starts: STARTS },
  });
  const judged = distinct(
    joints.map((joint) => ({ joint, worth: quickWorth(subject, joint) })).sort((a, b) => b.worth - a.worth),
    CLOSELY,
    5,
    ({ joint }) => joint,
    rate,
  );
  const by = Math.ceil(rate / 8000) + 2;
  const found = judged.map(({ joint }) => {
    const low = region.from + 1;
    const fine = refineJoint(channels, joint, by, reach, low, joint.end - shortest);
    return bestFade(subject, fine, kind);
  });
  const sorted = distinct(
    found.sort((a, b) => b.score - a.score || a.start - b.start || a.end - b.end),
    wish.count ?? COUNT,
    2,
    (c) => c,
    rate,
  );
  const most = wish.mostPulse ?? MOST_PULSE;
  const fair = sorted.filter((c) => c.parts.pulse <= most && c.parts.change <= MOST_CHANGE);
  if (fair.length > 0) return { kind, note, candidates: fair, none: null };
  return none(
    sorted.length === 0
      ? "no two places in it run alike"
      : sorted.every((c) => c.parts.pulse > most)
        ? `it has no loop without a pulse below ${most} dB`
        : "every loop in it would be heard at its seam",
    kind,
    note,
  );
}

/** The pitch of what lies behind the attack; null where none is sure. */
function pitchOf(audio: Audio, { from, to }: LoopRegion): Note | null {
  const { rate } = audio;
  const found = new PitchFinder(rate, 32, Math.min(4200, rate / 5)).find(monoOf(audio), from, to);
  return found.note !== null && found.confidence >= SURE ? found.note : null;
}

/** Levels of the steps around a frame, in decibels. */
function levelAt({ region, start, rate }: Subject, frame: number): number {
  const at = Math.floor((frame - start) / Math.max(1, Math.round(rate * STEP)));
  let sum = 0;
  for (let i = at - 2; i <= at + 1; i++)
    sum += 10 ** ((region.levels[Math.min(region.levels.length - 1, Math.max(0, i))] as number) / 10);
  return 10 * Math.log10(sum / 4 + 1e-14);
}

/** How far the level moves from the start to the end of a stretch, over windows of about 50 ms. */
function pulseOf(subject: Subject, from: number, to: number): number {
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  const steps = Math.max(2, Math.min(400, Math.round((to - from) / (subject.rate * 0.02))));
  for (let i = 0; i <= steps; i++) {
    const level = levelAt(subject, from + ((to - from) * i) / steps);
    low = Math.min(low, level);
    high = Math.max(high, level);
  }
  return high - low;
}

/** What a joint promises before its seam is heard. */
function quickWorth(subject: Subject, { start, end, alike }: Joint): number {
  const level = Math.abs(levelAt(subject, end) - levelAt(subject, start));
  const colour = subject.spectra.distance(start, end);
  const pulse = pulseOf(subject, start, end);
  const length = Math.log2((end - start) / subject.rate + 0.05);
  return 3 * alike - level / 4 - colour / 5 - pulse / 8 + 0.16 * length;
}

/** A loop at a joint with the crossfade that is heard least. */
function bestFade(subject: Subject, { start, end, alike }: Joint, kind: LoopKind): LoopCandidate {
  const { channels, rate, region, spectra, own, period } = subject;
  const level = levelAt(subject, end) - levelAt(subject, start);
  const colour = spectra.distance(start, end);
  const pulse = pulseOf(subject, start, end);
  const periods = period === null ? null : (end - start) / period;
  const law = alike >= 0.5 ? "gain" : "power";
  let best: { loop: Loop; parts: LoopParts; score: number } | null = null;
  for (const share of FADES) {
    const fade = Math.min(Math.round(share * (end - start)), start - region.from, Math.round(LONGEST_FADE * rate));
    if (fade < 0 || (share > 0 && fade < 16)) continue;
    const loop = newLoop({ start, end, fade, law });
    const { change } = measureSeam(channels, loop, own);
    const parts: LoopParts = { alike, level, colour, pulse, change, periods };
    // Of crossfades that sound the same the shorter one leaves more of the sound as it is.
    const score = scoreOf(parts, kind, (end - start) / rate) - share * 2;
    if (!best || score > best.score) best = { loop, parts, score };
    // Nobody hears a seam like that: longer crossfades would only take from the sound.
    if (change <= UNHEARD) break;
  }
  const { loop, parts, score } = best as NonNullable<typeof best>;
  const made = {
    start,
    end,
    mode: "forward" as const,
    crossfade: loop.fade,
    law: law as "gain" | "power",
    score: Math.round(Math.max(0, Math.min(100, score))),
    parts,
  };
  return { ...made, reason: reasonOf(made, rate, period) };
}

const share = (x: number): number => Math.max(0.01, Math.min(1, x));

/** A score from 0 to 100: the geometric mean of what was measured, so that what is worst counts most. */
function scoreOf(parts: LoopParts, kind: LoopKind, seconds: number): number {
  // Noise is never alike: there it counts that nothing happens at the seam.
  const alike = kind === "texture" && parts.change < 1.5 ? Math.max(parts.alike, 0.8) : parts.alike;
  const logs =
    0.34 * Math.log(share(1.6 - 0.5 * parts.change)) +
    0.2 * Math.log(share(alike)) +
    0.14 * Math.log(share(1 - Math.abs(parts.level) / 9)) +
    0.12 * Math.log(share(1 - parts.colour / 14)) +
    0.14 * Math.log(share(1 - parts.pulse / 14)) +
    // A loop of a few periods is without a seam and without life.
    0.22 * Math.log(share(0.25 + 0.24 * Math.log2(1 + 8 * seconds)));
  return 100 * Math.exp(logs);
}

/** How much longer a loop is than another at least, for both not to be of one length. */
const LONGER = 1.25;

/** The first of some loops, in their order, that are not nearly the same as one before them; of one length `ofLength` at the most. */
function distinct<T>(
  all: readonly T[],
  most: number,
  ofLength: number,
  of: (one: T) => { readonly start: number; readonly end: number },
  rate: number,
): T[] {
  const kept: T[] = [];
  for (const one of all) {
    if (kept.length >= most) break;
    const a = of(one);
    const near = Math.max(0.012 * rate, 0.06 * (a.end - a.start));
    let alike = 0;
    const known = kept.some((other) => {
      const b = of(other);
      const ratio = (a.end - a.start) / (b.end - b.start);
      if (ratio < LONGER && ratio > 1 / LONGER) alike++;
      return Math.abs(a.start - b.start) < near && Math.abs(a.end - b.end) < near;
    });
    if (!known && alike < ofLength) kept.push(one);
  }
  return kept;
}

/** What a sound was taken for, in words. */
export const kindText = ({ kind, note }: LoopAnswer): string =>
  kind === "tone" && note !== null ? `a tone, ${nameOfNote(Math.round(note))}` : "a texture without a pitch";
