import type { Audio } from "../audio";
import { wholeBars } from "./bars";
import { findJoints, refineJoint } from "./joints";
import { LoopJudge } from "./judge";
import { type LoopAnswer, type LoopCandidate, type LoopWish, strangePulse } from "./loop-candidate";
import { fallOf } from "./sustain";
import { findTurns } from "./turns";

const COUNT = 8;
/** Decibels of a pulse, and a change at the seam, above which a loop is worse than none. */
const MOST_PULSE = 9;
const MOST_CHANGE = 3;
/** Ends that are tried, and starts that are taken for each. */
const ENDS = 36;
const STARTS = 20;
/** Joints that are looked at closely, a sixth of them of one length; and such of the sound evened out. */
const CLOSELY = 48;
const EVENED_CLOSELY = 18;
/** Candidates of one length that are proposed. */
const OF_LENGTH = 2;

/** Parts of a sound in each of which a place is looked for at which it may turn, and how alike both ways must be there; pairs of them that are tried. */
const TURNS = 14;
const TURNS_ALIKE = 0.6;
const TURN_PAIRS = 10;
/** Loops that go there and back, and such whose level is evened out, that are proposed. */
const BACK_AND_FORTH = 2;
/** Decibels by which a sound must fall, to be worth evening out; and by how much it may be raised. */
const FALLS = 3;
const RAISED = 30;

/**
 * Finds loops in a sound. Pairs of places that run alike (normalised cross-correlation) are judged by their levels, their colours, how far the level moves
 * between them, and by the spectral flux of the seam as it will be played, with several crossfades; of loops that are nearly the same one is kept. The attack
 * and the end are never in a loop. Of sounds that die away loops are looked for in the sound evened out as well, and where they are better proposed with that
 * curve; of beats loops are whole bars. The answer depends on nothing but the sound and the wish.
 */
export function findLoops(audio: Audio, wish: LoopWish = {}): LoopAnswer {
  const judge = LoopJudge.of(audio, wish);
  if (typeof judge === "string") return { kind: "texture", note: null, beat: null, candidates: [], none: judge };
  const { rate, kind, note } = judge;
  const beat = judge.beat && { tempo: judge.beat.tempo, downbeat: judge.beat.downbeat, bar: judge.beat.bar };
  const most = wish.mostPulse ?? MOST_PULSE;
  const isFair = ({ parts }: LoopCandidate) =>
    (strangePulse(parts) <= most || kind === "beat") && parts.change <= MOST_CHANGE;
  const answer = (candidates: readonly LoopCandidate[], why: string | null): LoopAnswer => ({
    ...{ kind, note, beat, candidates, none: candidates.length > 0 ? null : why },
  });
  const count = wish.count ?? COUNT;
  if (kind === "beat" && judge.beat) {
    const bars = wholeBars(judge.beat, rate, judge.start, judge.end, (wish.shortest ?? 0) * rate, judge.longest);
    const whole = best(
      bars.map((b) => judge.judgeBars(b)),
      count,
      3,
      rate,
    ).filter(isFair);
    if (whole.length > 0 || wish.kind === "beat") return answer(whole, "it is shorter than a beat of its tempo");
    // Its beat is no help: then it is what it is otherwise.
    return { ...findLoops(audio, { ...wish, note, kind: note === null ? "texture" : "tone" }), beat };
  }
  const { from, to } = judge.region;
  if (to - from < judge.shortest + 8) return answer([], "what is left of it behind its attack is shorter than a loop");
  const plain = [...alongJoints(judge), ...thereAndBack(judge)];
  const evened = evenedJudge(judge);
  const all = evened ? [...plain, ...best(alongJoints(evened, EVENED_CLOSELY), BACK_AND_FORTH, 1, rate)] : plain;
  const sorted = best(all, count, OF_LENGTH, rate);
  if (sorted.length === 0) return answer([], "no two places in it run alike");
  return answer(
    sorted.filter(isFair),
    sorted.every((c) => strangePulse(c.parts) > most)
      ? `it has no loop without a pulse below ${most} dB`
      : "every loop in it would be heard at its seam",
  );
}

/** The best of some candidates, best first, none of them nearly the same as another. */
const best = (all: readonly LoopCandidate[], most: number, ofLength: number, rate: number): LoopCandidate[] =>
  distinct(
    [...all].sort((a, b) => b.score - a.score || a.start - b.start || a.end - b.end),
    most,
    ofLength,
    rate,
  );

/** Loops along pairs of places that run alike. */
function alongJoints(judge: LoopJudge, closely = CLOSELY): LoopCandidate[] {
  const { channels, rate, region, shortest, longest, reach } = judge;
  const { from, to } = region;
  const joints = findJoints(channels, rate, { from, to, shortest, longest, reach, ends: ENDS, starts: STARTS });
  const promising = distinct(
    joints.map((joint) => ({ ...joint, worth: judge.promise(joint) })).sort((a, b) => b.worth - a.worth),
    closely,
    Math.ceil(closely / 6),
    rate,
  );
  const by = Math.ceil(rate / 8000) + 2;
  return promising.map((joint) => judge.judge(refineJoint(channels, joint, by, reach, from + 1, joint.end - shortest)));
}

/** Loops between pairs of places at which the sound may turn. */
function thereAndBack(judge: LoopJudge): LoopCandidate[] {
  const { channels, rate, region, shortest, longest, reach } = judge;
  const turns = findTurns(channels, rate, region.from, region.to, reach, TURNS).filter(
    (t) => t.alike >= TURNS_ALIKE && t.at > region.from && t.at < region.to,
  );
  const pairs = turns.flatMap((a) =>
    turns.flatMap((b) => {
      const [start, end] = [a.at, b.at + 1];
      const alike = Math.min(a.alike, b.alike);
      return end - start >= shortest && end - start <= longest ? [{ start, end, alike }] : [];
    }),
  );
  const promising = pairs
    .map((pair) => ({ ...pair, worth: judge.promise(pair) }))
    .sort((a, b) => b.worth - a.worth)
    .slice(0, TURN_PAIRS);
  return best(
    promising.map(({ start, end, alike }) => judge.judgeTurns(start, end, alike)),
    BACK_AND_FORTH,
    1,
    rate,
  );
}

/** A judge of the sound evened out; null where it hardly dies away, or at once. */
function evenedJudge(judge: LoopJudge): LoopJudge | null {
  const { channels, rate, region, period, shortest } = judge;
  const { curve, to: held, fall } = fallOf(channels, rate, region, period);
  const { levels, step, from } = curve;
  const low = levels.findIndex((level) => level < (levels[0] as number) - RAISED);
  const to = low < 0 ? held : Math.min(held, from + low * step);
  return Math.abs(fall) >= FALLS && to - from >= 2 * shortest + 8 ? judge.evened(curve, to) : null;
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
