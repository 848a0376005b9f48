import { LoopGain, type LoopTap, likenessOf, loopTap } from "../../../core/dsp";
import type { Loop } from "../../../core/instrument";
import { STEP } from "../../../core/looping";

/** Levels of a sound as it goes round a loop, in decibels below its loudest, and how far they move in the loop once it goes round. */
export interface LevelCourse {
  readonly levels: Float64Array;
  readonly pulse: number;
}

/** The level of a playback that goes round a loop for some seconds, at so many moments; `track` is the sound's own, step by step. */
export function levelCourse(
  track: Float64Array,
  samples: Float32Array,
  rate: number,
  start: number,
  loop: Loop,
  seconds: number,
  count: number,
): LevelCourse {
  const step = Math.max(1, Math.round(rate * STEP));
  const power = (frame: number) => 10 ** ((track[Math.min(track.length - 1, Math.floor(frame / step))] ?? -140) / 10);
  const alike = likenessOf(samples, loop);
  const gain = LoopGain.of(loop);
  const tap: LoopTap = { frame: 0, weight: 1, other: 0, otherWeight: 0 };
  const levels = new Float64Array(count);
  let most = -140;
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let i = 0; i < count; i++) {
    const t = Math.round(start + (i / count) * seconds * rate);
    loopTap(loop, alike, t, tap);
    const [a, b] = [tap.frame, tap.other];
    const crossed = tap.otherWeight !== 0;
    const ownGain = gain ? (crossed ? gain.crossing(a) : gain.alone(a)) : 1;
    const own = power(a) * ownGain ** 2;
    const other = crossed ? power(b) * (gain?.crossing(b) ?? 1) ** 2 : 0;
    const both = 2 * alike * tap.weight * tap.otherWeight * Math.sqrt(own * other);
    const level = 10 * Math.log10(tap.weight ** 2 * own + tap.otherWeight ** 2 * other + both + 1e-14);
    levels[i] = level;
    most = Math.max(most, level);
    if (t < loop.start) continue;
    low = Math.min(low, level);
    high = Math.max(high, level);
  }
  for (let i = 0; i < count; i++) levels[i] = (levels[i] as number) - most;
  return { levels, pulse: high > low ? high - low : 0 };
}
