import type { Note } from "../audio";

/** Periods of a vibrato that are looked for, in seconds: 3 to 12 times a second. */
const FASTEST = 1 / 12;
const SLOWEST = 1 / 3;
/** How alike a track of pitches must be to itself one period later to be a vibrato. */
const ALIKE = 0.5;

/** The mean of a track between two places in it, which need not be whole: its values are joined by lines. */
function meanBetween(track: readonly number[], from: number, to: number): number {
  let sum = 0;
  const steps = Math.max(1, Math.round((to - from) * 4));
  for (let i = 0; i < steps; i++) {
    const at = from + ((i + 0.5) * (to - from)) / steps;
    const n = Math.min(track.length - 1, Math.floor(at));
    const next = track[Math.min(track.length - 1, n + 1)] as number;
    sum += (track[n] as number) + (at - n) * (next - (track[n] as number));
  }
  return sum / steps;
}

/**
 * The pitch about which a tone swings, from its pitches at equal steps (seconds): where the track comes back to itself (normalised autocorrelation), its mean
 * over whole periods of that, all the first places averaged from which so many fit; else the mean of all of it.
 */
export function centreOf(track: readonly Note[], step: number): Note {
  const mean = track.reduce((sum, note) => sum + note, 0) / track.length;
  const alikeAt = (lag: number): number => {
    let [ab, aa, bb] = [0, 0, 0];
    for (let i = 0; i + lag < track.length; i++) {
      const [a, b] = [(track[i] as number) - mean, (track[i + lag] as number) - mean];
      ab += a * b;
      aa += a * a;
      bb += b * b;
    }
    return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
  };
  let best = 0;
  let most = ALIKE;
  const last = Math.min(Math.floor(SLOWEST / step), track.length - 3);
  let fell = false;
  for (let lag = 1; lag <= last; lag++) {
    const alike = alikeAt(lag);
    if (alike < 0) fell = true;
    // What is alike before it has ever been unlike is only slow.
    if (!fell || lag < FASTEST / step || alike <= most) continue;
    most = alike;
    best = lag;
  }
  if (best === 0) return mean;
  const [a, b, c] = [alikeAt(best - 1), alikeAt(best), alikeAt(best + 1)];
  const bend = a - 2 * b + c;
  const period = best + (bend < 0 ? Math.max(-0.5, Math.min(0.5, (a - c) / (2 * bend))) : 0);
  const length = Math.floor((track.length - 1) / period) * period;
  if (length <= 0) return mean;
  const room = track.length - 1 - length;
  return (meanBetween(track, 0, length) + meanBetween(track, room, room + length)) / 2;
}
