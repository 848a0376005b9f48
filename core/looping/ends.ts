import type { Audio } from "../audio";
import { alikeAt, likeRuns, refineJoint } from "./joints";
import { LoopJudge } from "./judge";
import type { LoopWish } from "./loop-candidate";

/** Places at which a loop's end (or start) may go while its other end stays: so many, and how alike both sides must be. */
const MOST = 64;
const ALIKE = 0.5;

/** Frames for one end of a loop, its other end staying where it is, rising: where both sides of the joint run alike. */
export function otherEnds(
  audio: Audio,
  loop: { readonly start: number; readonly end: number },
  which: "start" | "end",
  wish: LoopWish = {},
): readonly number[] {
  const judge = LoopJudge.of(audio, wish);
  if (typeof judge === "string") return [];
  const { channels, rate, region, shortest, longest, reach } = judge;
  const fixed = which === "start" ? loop.end : loop.start;
  const low = which === "start" ? Math.max(region.from, fixed - longest) : fixed + shortest;
  const high = which === "start" ? fixed - shortest : Math.min(region.to, fixed + longest);
  if (high - low < 2) return [];
  const by = Math.ceil(rate / 8000) + 2;
  const found = likeRuns(channels, rate, fixed, low, high, reach, MOST)
    .filter(({ alike }) => alike >= ALIKE)
    .map(({ at }) =>
      which === "start"
        ? refineJoint(channels, { start: at, end: fixed, alike: 0 }, by, reach, low, high).start
        : finestEnd(channels, fixed, at, by, reach),
    )
    .sort((a, b) => a - b);
  return found.filter((at, i) => at >= low && at <= high && at !== found[i - 1]);
}

/** The frame near a place around which the sound runs most as it does around another. */
function finestEnd(channels: readonly Float32Array[], start: number, near: number, by: number, reach: number): number {
  let best = near;
  let most = Number.NEGATIVE_INFINITY;
  for (let at = near - by; at <= near + by; at++) {
    const alike = alikeAt(channels, start, at, reach);
    if (alike > most) [best, most] = [at, alike];
  }
  return best;
}
