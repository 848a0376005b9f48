import type { Decibels, Hertz } from "../audio";

/** Length of a step of the level track, in seconds. */
export const STEP = 0.01;

/** Levels of a sound step by step (RMS in dBFS), first channel to last together. */
export function levelTrack(channels: readonly Float32Array[], rate: Hertz, from: number, to: number): Float64Array {
  const step = Math.max(1, Math.round(rate * STEP));
  const track = new Float64Array(Math.max(0, Math.floor((to - from) / step)));
  for (let s = 0; s < track.length; s++) {
    let sum = 0;
    for (const channel of channels)
      for (let i = from + s * step; i < from + (s + 1) * step; i++) sum += (channel[i] as number) ** 2;
    track[s] = sum > 0 ? Math.max(-140, 10 * Math.log10(sum / (step * channels.length))) : -140;
  }
  return track;
}

/** Steps on either side over which levels are evened, so that what swings with a period isn't taken for a pulse. */
const BESIDE = 2;

/** A level track evened out over a few steps: for each the mean power of those around it, in decibels. */
export function smoothTrack(track: Float64Array): Float64Array {
  const powers = track.map((level) => 10 ** (level / 10));
  return track.map((_, n) => {
    const [low, high] = [Math.max(0, n - BESIDE), Math.min(powers.length, n + BESIDE + 1)];
    let sum = 0;
    for (let i = low; i < high; i++) sum += powers[i] as number;
    return 10 * Math.log10(sum / (high - low));
  });
}

/** Where a loop may lie: frames `[from, to)` behind the attack and before the sound is gone, and the levels there. */
export interface LoopRegion {
  readonly from: number;
  readonly to: number;
  /** Levels of the whole sound, of `STEP` each, from its start on. */
  readonly levels: Float64Array;
}

/** How far below its loudest a sound has risen once its attack begins to be over, and from where on it counts as gone. */
const RISEN: Decibels = 6;
const GONE: Decibels = 46;
/** What an attack takes beyond the moment at which the sound has risen, in seconds; at most that share of the sound. */
const SETTLING = 0.06;
const MOST_ATTACK = 0.35;
/** Levels below this are silence. */
export const SILENT: Decibels = -80;

/** Finds where a loop may lie in `[start, end)`; null where there is nothing that sounds long enough. */
export function regionOf(
  channels: readonly Float32Array[],
  rate: Hertz,
  start: number,
  end: number,
): LoopRegion | null {
  const levels = levelTrack(channels, rate, start, end);
  const step = Math.max(1, Math.round(rate * STEP));
  let loudest = Number.NEGATIVE_INFINITY;
  for (const level of levels) loudest = Math.max(loudest, level);
  if (!(loudest > SILENT)) return null;
  const risen = levels.findIndex((l) => l >= loudest - RISEN);
  let last = levels.length - 1;
  while (last > risen && (levels[last] as number) < Math.max(SILENT, loudest - GONE)) last--;
  const attack = Math.min(risen * step + Math.round(SETTLING * rate), Math.round(MOST_ATTACK * (end - start)));
  const from = start + attack;
  // The last steps of a sound that ends are on their way out already.
  const to = Math.min(end, start + (last + 1) * step - (last < levels.length - 1 ? step : 0));
  return to - from < 4 * step ? null : { from, to, levels };
}
