import type { Decibels, Hertz, Seconds } from "../audio";
import { Spectrum } from "./spectrum";

/** A resonance that was found in a recording of a hit. */
export interface FoundMode {
  readonly hertz: Hertz;
  /** Its level at the hit, the loudest being 0. */
  readonly level: Decibels;
  /** Time in which it falls by 60 dB. */
  readonly decay: Seconds;
}

/** Longest stretch that is looked at, and how long after the hit it begins: the blow's own noise is over by then. */
const SPAN = 2 ** 15;
const AFTER_HIT = 0.004;
/** A Hann window's side lobes are below this beside a peak. */
const FLOOR = -70;
/** Peaks that are nearer to a louder one than so many bins are its window's. */
const NEAREST = 2.5;
const HOP = 512;
const WINDOW = 2048;
/** A decay is read down to this level below the mode's loudest. */
const READ_TO = -45;
const SHORTEST = 0.005;
const LONGEST = 60;

/** Share of the loudest millisecond's energy by which a hit is known. */
const HIT_SHARE = 0.03;

/** Frame at which a sound is hit: the first millisecond that isn't far below its loudest. */
function hitOf(x: Float32Array, rate: Hertz): number {
  const step = Math.max(1, Math.round(rate * 0.001));
  const energies: number[] = [];
  for (let at = 0; at < Math.min(x.length, rate * 5); at += step) {
    let sum = 0;
    for (let i = at; i < at + step && i < x.length; i++) sum += (x[i] as number) ** 2;
    energies.push(sum);
  }
  const most = energies.reduce((a, b) => Math.max(a, b), 0);
  return (
    Math.max(
      0,
      energies.findIndex((e) => e > most * HIT_SHARE),
    ) * step
  );
}

/** Levels of one frequency over time, in decibels, each over a Hann window. */
function courseOf(x: Float32Array, rate: Hertz, from: number, hertz: Hertz): number[] {
  const levels: number[] = [];
  const turn = (2 * Math.PI * hertz) / rate;
  for (let at = from; at + WINDOW <= x.length && levels.length < (rate * 4) / HOP; at += HOP) {
    let re = 0;
    let im = 0;
    for (let i = 0; i < WINDOW; i++) {
      const v = (x[at + i] as number) * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / WINDOW));
      re += v * Math.cos(turn * i);
      im += v * Math.sin(turn * i);
    }
    levels.push(20 * Math.log10(Math.hypot(re, im) + 1e-9));
  }
  return levels;
}

/** The straight line through a course while it falls: decibels per window's step, and its level at the first; null where it doesn't fall. */
function fallOf(levels: readonly number[]): { slope: number; level: number } | null {
  let top = 0;
  for (let i = 1; i < Math.min(levels.length, 8); i++) if ((levels[i] as number) > (levels[top] as number)) top = i;
  const peak = levels[top] as number;
  let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
  for (let i = top; i < levels.length; i++) {
    const level = levels[i] as number;
    if (level < peak + READ_TO) break;
    // Where it comes up again, or stays, is another sound, or noise.
    if (i > top + 8 && level > (levels[i - 8] as number) - 0.02) break;
    n++;
    sx += i;
    sy += level;
    sxx += i * i;
    sxy += i * level;
  }
  const det = n * sxx - sx * sx;
  if (n < 2 || det === 0) return null;
  const slope = (n * sxy - sx * sy) / det;
  return slope < 0 ? { slope, level: (sy - slope * sx) / n } : null;
}

/**
 * The resonances of a body in a recording of one hit: peaks of the spectrum after the hit (parabolas through the logarithms: Smith and Serra, 1987), each with
 * the straight line by which its level falls. At most so many, the loudest; from low to high. An empty list where nothing rings.
 */
export function findModes(x: Float32Array, rate: Hertz, most: number): FoundMode[] {
  const from = hitOf(x, rate) + Math.round(AFTER_HIT * rate);
  let size = SPAN;
  while (size > WINDOW && size > (x.length - from) * 1.5) size /= 2;
  const magnitudes = new Spectrum(size).measure(x, from);
  const db = Float64Array.from(magnitudes, (m) => 20 * Math.log10(m + 1e-12));
  const top = db.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY);
  if (top < -100) return [];
  const bin = rate / size;
  const peaks: { k: number; level: number }[] = [];
  for (let k = Math.max(2, Math.ceil(20 / bin)); k < Math.min(db.length - 1, 18000 / bin); k++) {
    const [a, b, c] = [db[k - 1] as number, db[k] as number, db[k + 1] as number];
    if (!(b > a && b >= c) || b < top + FLOOR) continue;
    const bend = a - 2 * b + c;
    peaks.push({ k: k + (bend === 0 ? 0 : (0.5 * (a - c)) / bend), level: b });
  }
  peaks.sort((p, q) => q.level - p.level);
  const apart: typeof peaks = [];
  for (const peak of peaks) {
    if (apart.length >= most * 3) break;
    if (apart.every((p) => Math.abs(p.k - peak.k) > NEAREST)) apart.push(peak);
  }
  const found = apart.flatMap(({ k }): FoundMode[] => {
    const hertz = k * bin;
    const fall = fallOf(courseOf(x, rate, from, hertz));
    if (!fall) return [];
    const decay = (-60 / fall.slope) * (HOP / rate);
    if (decay < SHORTEST) return [];
    // Back to the hit: half a window and what was left out before the first.
    const back = (WINDOW / 2 + AFTER_HIT * rate) / HOP;
    return [{ hertz, level: fall.level - fall.slope * back, decay: Math.min(LONGEST, decay) }];
  });
  const loudest = found.reduce((a, m) => Math.max(a, m.level), Number.NEGATIVE_INFINITY);
  return found
    .map((m) => ({ ...m, level: m.level - loudest }))
    .filter((m) => m.level > FLOOR)
    .sort((a, b) => b.level - a.level)
    .slice(0, most)
    .sort((a, b) => a.hertz - b.hertz);
}
