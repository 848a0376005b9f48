import type { Decibels, Hertz } from "../audio";

/** How loud a take is over time, in steps of about a millisecond; what the slice finder reads. */
export interface Levels {
  readonly rate: Hertz;
  readonly frames: number;
  /** Frames in a step. */
  readonly step: number;
  /** Largest magnitude in each step, in dBFS (never below −120). */
  readonly peak: Float32Array;
  /** Largest of each `COARSE` steps of `peak`, so that a search passes over what is quiet. */
  readonly coarse: Float32Array;
  /** Power of the sound's bend (its second difference) in each step, in decibels: where attacks stand out of what rings. */
  readonly edge: Float32Array;
  /** Mean power over the 20 steps around each step, in dBFS. */
  readonly power: Float32Array;
  /** The take's own noise floor: the level of its quiet parts, in dBFS of `power`. */
  readonly floor: Decibels;
}

/** Steps in one of `coarse`. */
export const COARSE = 64;

/** Called with the share done, 0 to 1; may throw to cancel. */
export type Progress = (share: number) => void;

const SMOOTH = 20;
const LOWEST = -120;
/** So many decibels above the quietest thirtieth, the commonest level is no room's any more. */
const RARELY_QUIET = 7;

/** Measures the levels of one channel. Rumble below about 30 Hz is left out, so that a draught isn't taken for sound. */
export function measureLevels(samples: Float32Array, rate: Hertz, progress?: Progress): Levels {
  const step = Math.max(1, Math.round(rate / 1000));
  const steps = Math.max(1, Math.ceil(samples.length / step));
  const peak = new Float32Array(steps);
  const edge = new Float32Array(steps);
  const means = new Float32Array(steps);
  const follow = 1 - Math.exp((-2 * Math.PI * 30) / rate);
  let slow = samples[0] ?? 0;
  let [x1, x2] = [0, 0];
  for (let s = 0; s < steps; s++) {
    const to = Math.min(samples.length, (s + 1) * step);
    let high = 0;
    let sum = 0;
    let bent = 0;
    for (let i = s * step; i < to; i++) {
      const raw = samples[i] as number;
      slow += follow * (raw - slow);
      const x = raw - slow;
      if (x > high) high = x;
      else if (-x > high) high = -x;
      sum += x * x;
      const d = x - 2 * x1 + x2;
      x2 = x1;
      x1 = x;
      bent += d * d;
    }
    peak[s] = Math.max(LOWEST, 20 * Math.log10(high));
    edge[s] = Math.max(LOWEST, 10 * Math.log10(bent / step));
    means[s] = sum / step;
    if (progress && s % 8192 === 0) progress(s / steps);
  }
  const coarse = new Float32Array(Math.ceil(steps / COARSE)).fill(LOWEST);
  for (let s = 0; s < steps; s++) {
    const c = Math.floor(s / COARSE);
    if ((peak[s] as number) > (coarse[c] as number)) coarse[c] = peak[s] as number;
  }
  const power = new Float32Array(steps);
  let sum = 0;
  for (let s = 0; s < steps + SMOOTH / 2; s++) {
    sum += s < steps ? (means[s] as number) : 0;
    const gone = s - SMOOTH;
    if (gone >= 0) sum -= means[gone] as number;
    const at = s - SMOOTH / 2;
    if (at >= 0) power[at] = Math.max(LOWEST, 10 * Math.log10(Math.max(0, sum) / SMOOTH));
  }
  progress?.(1);
  return { rate, frames: samples.length, step, peak, coarse, edge, power, floor: floorOf(power) };
}

/**
 * The noise floor as the mode of the quieter half of the level histogram (after R. Martin, 2001: the minimum statistics
 * of noise): tails of sounds spread over many levels, the room stays at one. In a take that is hardly ever quiet, where the mode
 * is a sound's, the level of its quietest thirtieth.
 */
function floorOf(power: Float32Array): Decibels {
  const counts = new Float64Array(-LOWEST + 1);
  for (const level of power) {
    const bin = Math.min(-LOWEST, Math.max(0, Math.round(level - LOWEST)));
    counts[bin] = (counts[bin] as number) + 1;
  }
  const half = power.length / 2;
  let passed = 0;
  let best = 0;
  let most = 0;
  let quietest = -1;
  for (let bin = 0; bin < counts.length && passed < half; bin++) {
    if (quietest < 0 && passed + (counts[bin] as number) > power.length / 30) quietest = bin;
    const near = (counts[bin - 1] ?? 0) + (counts[bin] as number) + (counts[bin + 1] ?? 0);
    passed += counts[bin] as number;
    if (near > most) {
      most = near;
      best = bin;
    }
  }
  // Digital silence is no room.
  const dense = best - quietest > RARELY_QUIET && quietest > 10;
  return (dense ? quietest + 1 : best) + LOWEST;
}
