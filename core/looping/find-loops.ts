import type { Audio } from "../audio";
import { findJoints, refineJoint } from "./joints";
import { LoopJudge } from "./judge";
import type { LoopAnswer, LoopWish } from "./loop-candidate";

const COUNT = 8;
/** Decibels of a pulse, and a change at the seam, above which a loop is worse than none. */
const MOST_PULSE = 9;
const MOST_CHANGE = 3;
/** Ends that are tried, and starts that are taken for each. */
const ENDS = 36;
const STARTS = 20;
/** Joints that are looked at closely; so many of one length. */
const CLOSELY = 48;
const CLOSELY_OF_LENGTH = 8;
/** Candidates of one length that are proposed. */
const OF_LENGTH = 2;

/**
 * Finds loops in a sound. Pairs of places that run alike (normalised cross-correlation) are judged by their levels, their colours, how far the level moves
 * between them, and by the spectral flux of the seam as it will be played, with several crossfades; of loops that are nearly the same one is kept. The attack
 * and the end are never in a loop. The answer depends on nothing but the sound and the wish.
 */
export function findLoops(audio: Audio, wish: LoopWish = {}): LoopAnswer {
  const judge = LoopJudge.of(audio, wish);
  if (typeof judge === "string") return { kind: "texture", note: null, candidates: [], none: judge };
  const { channels, rate, region, kind, note, shortest, longest, reach } = judge;
  const { from, to } = region;
  const none = (why: string): LoopAnswer => ({ kind, note, candidates: [], none: why });
  if (to - from < shortest + 8) return none("what is left of it behind its attack is shorter than a loop");
  const joints = findJoints(channels, rate, { from, to, shortest, longest, reach, ends: ENDS, starts: STARTS });
  const promising = distinct(
    joints.map((joint) => ({ ...joint, worth: judge.promise(joint) })).sort((a, b) => b.worth - a.worth),
    CLOSELY,
    CLOSELY_OF_LENGTH,
    rate,
  );
  const by = Math.ceil(rate / 8000) + 2;
  const found = promising.map((joint) =>
    judge.judge(refineJoint(channels, joint, by, reach, from + 1, joint.end - shortest)),
  );
  const sorted = distinct(
    found.sort((a, b) => b.score - a.score || a.start - b.start || a.end - b.end),
    wish.count ?? COUNT,
    OF_LENGTH,
    rate,
  );
  const most = wish.mostPulse ?? MOST_PULSE;
  const fair = sorted.filter((c) => c.parts.pulse <= most && c.parts.change <= MOST_CHANGE);
  if (fair.length > 0) return { kind, note, candidates: fair, none: null };
  if (sorted.length === 0) return none("no two places in it run alike");
  return none(
    sorted.every((c) => c.parts.pulse > most)
      ? `it has no loop without a pulse below ${most} dB`
      : "every loop in it would be heard at its seam",
  );
}

/** How much longer a loop is than another at least, for both not to be of one length. */
const LONGER = 1.25;

/** The first of some loops, in their order, that are not nearly the same as one before them; of one length `ofLength` at the most. */
function distinct<T extends { readonly start: number; readonly end: number }>(
  all: readonly T[],
  most: number,
  ofLength: number,
  rate: number,
): T[] {
  const kept: T[] = [];
  for (const a of all) {
    if (kept.length >= most) break;
    const near = Math.max(0.012 * rate, 0.06 * (a.end - a.start));
    let alike = 0;
    const known = kept.some((b) => {
      const ratio = (a.end - a.start) / (b.end - b.start);
      if (ratio < LONGER && ratio > 1 / LONGER) alike++;
      return Math.abs(a.start - b.start) < near && Math.abs(a.end - b.end) < near;
    });
    if (!known && alike < ofLength) kept.push(a);
  }
  return kept;
}
