import { LoopGain, type LoopTap, likenessOf, loopTap } from "../../../core/dsp";
import { byIdentity, type Loop } from "../../../core/instrument";
import { levelTrack, STEP } from "../../../core/looping";

/** Levels of a sound as it goes round a loop, in decibels below its loudest, and how far they move in the loop once it goes round. */
export interface LevelCourse {
  readonly levels: Float64Array;
  readonly pulse: number;
}

/** Levels of a sound, measured once for each: handles are dragged many times over the same sound. */
const tracksOf = byIdentity((samples: Float32Array) => {
  let known: { readonly rate: number; readonly track: Float64Array } | null = null;
  return (rate: number): Float64Array => {
    if (known?.rate !== rate) known = { rate, track: smooth(levelTrack([samples], rate, 0, samples.length)) };
    return known.track;
  };
});

/** Steps on either side over which levels are evened, so that what swings with a period isn't taken for a pulse. */
const BESIDE = 2;

/** Mean powers of the steps around each, in decibels. */
function smooth(track: Float64Array): Float64Array {
  const powers = track.map((level) => 10 ** (level / 10));
  return track.map((_, n) => {
    const part = powers.subarray(Math.max(0, n - BESIDE), n + BESIDE + 1);
    return 10 * Math.log10(part.reduce((s, p) => s + p, 0) / part.length);
  });
}

/** The level of a playback that goes round a loop for some seconds, at so many moments. */
export function levelCourse(
  samples: Float32Array,
  rate: number,
  start: number,
  loop: Loop,
  seconds: number,
  count: number,
): LevelCourse {
  const step = Math.max(1, Math.round(rate * STEP));
  const track = tracksOf(samples)(rate);
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
