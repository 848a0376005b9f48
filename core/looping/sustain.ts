import type { Decibels, Hertz } from "../audio";
import type { Flattening } from "../instrument";
import { levelCurveOf } from "./flatten";
import { lineOf } from "./movement";
import type { LoopRegion } from "./region";

/** Decibels a second by which a release falls faster than what comes before it, and the least share of a sound that is held before one. */
const SUDDEN = 15;
const LEAST_HELD = 0.3;
/** Seconds around each place in which a trend is a straight line; beside that the level may move so far and still be no movement, in decibels. */
const TREND = 1;
const STILL: Decibels = 1.5;

/** Where what is held of a sound ends: at the bend behind which its level (in equal steps) falls much faster than before it; else at its end. */
export function heldUntil(levels: Float64Array, seconds: number): number {
  const { length } = levels;
  const first = Math.max(8, Math.round(LEAST_HELD * length));
  const errors = (from: number, to: number): { readonly error: number; readonly slope: number } => {
    const { middle, mean, slope } = lineOf(levels, from, to);
    let error = 0;
    for (let i = from; i < to; i++) error += ((levels[i] as number) - mean - slope * (i - middle)) ** 2;
    return { error, slope };
  };
  let least = errors(0, length).error * 0.6;
  let held = length;
  for (let at = first; at <= length - 4; at++) {
    const [before, after] = [errors(0, at), errors(at, length)];
    if (before.error + after.error >= least) continue;
    const faster = (before.slope - after.slope) / seconds;
    if (faster < SUDDEN || -after.slope < 3 * Math.abs(before.slope)) continue;
    least = before.error + after.error;
    held = at;
  }
  return held;
}

/** The trend of some levels: a straight line around each of them (local regression; W. S. Cleveland, 1979, with equal weights). */
export function trendOf(levels: Float64Array, beside: number): Float64Array {
  return levels.map((_, i) => {
    const { middle, mean, slope } = lineOf(levels, Math.max(0, i - beside), Math.min(levels.length, i + beside + 1));
    return mean + slope * (i - middle);
  });
}

/**
 * What a sound dies away (or grows) by while it is held, as a curve that evens it out, and the frame at which what is held ends. What its level does
 * beside that (beating, tremolo, breath) is its life: where there is any, the curve holds the trend alone.
 */
export function fallOf(
  channels: readonly Float32Array[],
  rate: Hertz,
  region: LoopRegion,
  period: number | null,
): { readonly curve: Flattening; readonly to: number; readonly fall: Decibels } {
  const whole = levelCurveOf(channels, rate, region.from, region.to, period);
  const { from, step } = whole;
  const all = Float64Array.from(whole.levels);
  const seconds = step / rate;
  const held = heldUntil(all, seconds);
  const to = held === all.length ? region.to : from + (held - 1) * step;
  const levels = all.subarray(0, held);
  const trend = trendOf(levels, Math.round(TREND / 2 / seconds));
  const beside = levels.map((level, i) => Math.abs(level - (trend[i] as number))).sort();
  const moves = (beside[Math.floor(0.9 * (held - 1))] ?? 0) > STILL / 2;
  const kept = moves ? trend : levels;
  // Behind what is held nothing is raised any more.
  const curve = { ...whole, levels: [...kept].map((level) => Math.round(level * 1000) / 1000) };
  return { curve, to, fall: (trend[0] ?? 0) - (trend[held - 1] ?? 0) };
}
