import { type Decibels, fftOf, type Hertz, type Seconds } from "../audio";
import { type DampedSine, fitAmplitudes, refineSines, withoutSines } from "./damped-sines";

/** A resonance that was found in a recording of a hit. */
export interface FoundMode {
  readonly hertz: Hertz;
  /** Its level at the hit, the loudest being 0. */
  readonly level: Decibels;
  /** Time in which it falls by 60 dB. */
  readonly decay: Seconds;
}

/** What is looked for in a hit. */
export interface ModeSearch {
  /** Modes at the most: the loudest. */
  readonly most: number;
  /** Below the loudest by so much they don't count; −60 where nothing is said. */
  readonly threshold?: Decibels;
  /** Frequency whose multiples alone are looked for; undefined: modes may stand anywhere. */
  readonly harmonicsOf?: Hertz;
}

/** Longest stretch that is looked at, and how long after the hit it begins: the blow's own noise is over by then. */
const LONGEST_SPAN = 2 ** 16;
const SHORTEST_SPAN = 256;
const AFTER_HIT: Seconds = 0.002;
const LOWEST: Hertz = 20;
/** Highest, as a share of the rate. */
const HIGHEST = 0.45;
const SHORTEST: Seconds = 0.005;
const LONGEST: Seconds = 60;
/** Decays for which the sound is searched, each three times as long as the one before. */
const DECAYS: readonly Seconds[] = [0.02, 0.06, 0.18, 0.55, 1.6, 5];
/** A peak this far above what surrounds it is no chance: of noise alone one in a million sounds has one. */
const SURE: Decibels = 14;
/** In each round peaks count that are at most so far below the highest of it. */
const REACH: Decibels = 14;
const ROUNDS = 40;
/** How much may be computed while it is searched, and as much again, each time, in the end: some seconds. */
const SEARCH = 4e8;
const FINAL = 2.5e8;
const REFINEMENTS = 5;
const LAST_REFINEMENTS = 20;
/** Where something was taken so often, it is taken again only if it stands out by so much more (bins, decibels). */
const TRIES = 2;
const NEIGHBOURS = 2;
const BETTER: Decibels = 3;
/** How much louder a mode may have been at the hit than where the search begins. */
const MOST_BEFORE: Decibels = 9;
/** Modes nearer to another than so many of its line's half breadths are looked at twice: whether they are needed, by how much more error would be left than chance leaves. */
const CROWD = 6;
const CHANCE = 40;
/** Modes nearer to each other than this share of their lines' breadth are one. */
const SAME = 0.4;
/** How far from a multiple, as a share of the fundamental, a mode may be and still count as a harmonic. */
const ASTRAY = 0.12;
/** Share of the loudest millisecond's energy by which a hit is known. */
const HIT_SHARE = 0.03;
/** Nepers in 60 dB. */
const SIXTY = 3 * Math.LN10;
/** Silence: −100 dB. */
const SILENT = 1e-5;

/** Frame at which a sound is hit: the first millisecond that isn't far below its loudest. */
export function hitOf(x: Float32Array, rate: Hertz): number {
  const step = Math.max(1, Math.round(rate * 0.001));
  const energies: number[] = [];
  for (let at = 0; at < x.length; at += step) {
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

/** A place in the spectrum where something rings: how far it stands out, and for which decay it does most. */
interface Candidate {
  readonly bin: number;
  readonly score: number;
  readonly fall: number;
  /** Amplitude that it would have. */
  readonly size: number;
}

/** Level around each bin: the median of its surroundings, which are so broad that lines of a breadth (bins) don't lift it. */
function floorOf(power: Float64Array, breadth: number): Float64Array {
  const floor = new Float64Array(power.length);
  const band = Math.min(power.length / 4, Math.max(24, Math.round(power.length / 96), Math.round(breadth * 60)));
  const marks: { at: number; level: number }[] = [];
  for (let from = 1; from < power.length; from += band) {
    const part = power.slice(from, from + 2 * band).sort();
    marks.push({ at: from + part.length / 2, level: (part[part.length >> 1] as number) / Math.LN2 });
  }
  let m = 0;
  for (let k = 0; k < power.length; k++) {
    while (m < marks.length - 2 && k > (marks[m + 1]?.at ?? 0)) m++;
    const [a, b] = [marks[m], marks[m + 1] ?? marks[m]];
    if (!a || !b) continue;
    const way = b.at > a.at ? Math.min(1, Math.max(0, (k - a.at) / (b.at - a.at))) : 0;
    floor[k] = a.level + (b.level - a.level) * way + 1e-30;
  }
  return floor;
}

/** Where something stands out of a sound, for several decays: a sine that dies away stands out most under a weight that does so as fast (matched filter). */
function candidates(rest: Float64Array, rate: Hertz, size: number): Candidate[] {
  const fft = fftOf(size);
  const [re, im] = [new Float64Array(size), new Float64Array(size)];
  const bins = size / 2 + 1;
  const best = new Float64Array(bins);
  const falls = new Float64Array(bins);
  const sizes = new Float64Array(bins);
  const longest = (rest.length / rate) * 1.2;
  for (const decay of DECAYS) {
    const fall = SIXTY / (Math.min(decay, longest) * rate);
    let energy = 0;
    re.fill(0);
    im.fill(0);
    for (let n = 0; n < rest.length; n++) {
      const w = Math.exp(-fall * n);
      energy += w * w;
      re[n] = (rest[n] as number) * w;
    }
    fft.forward(re, im);
    const power = new Float64Array(bins);
    for (let k = 0; k < bins; k++) power[k] = ((re[k] as number) ** 2 + (im[k] as number) ** 2) / energy;
    const floor = floorOf(power, (fall * size) / (2 * Math.PI));
    for (let k = 1; k < bins - 1; k++) {
      if (!((power[k] as number) > (power[k - 1] as number) && (power[k] as number) >= (power[k + 1] as number)))
        continue;
      const score = (power[k] as number) / (floor[k] as number);
      if (score <= (best[k] as number)) continue;
      best[k] = score;
      falls[k] = fall;
      sizes[k] = 2 * Math.sqrt((power[k] as number) / energy);
    }
    if (decay > longest) break;
  }
  const found: Candidate[] = [];
  for (let k = 1; k < bins - 1; k++) {
    const score = best[k] as number;
    if (score > 0)
      found.push({ bin: k, score: 10 * Math.log10(score), fall: falls[k] as number, size: sizes[k] as number });
  }
  return found.sort((a, b) => b.score - a.score);
}

/** What a sine that rings may be: nepers per frame, and an amplitude; louder ones would have to cancel each other out. */
interface Limits {
  readonly slowest: number;
  readonly fastest: number;
  readonly loudest: number;
}

const sizeOf = ({ re, im }: DampedSine): number => Math.hypot(re, im);

/** Without those that are the same as a louder one, or no sine that rings. */
function tidied(sines: readonly DampedSine[], frames: number, { slowest, fastest, loudest }: Limits): DampedSine[] {
  const kept: DampedSine[] = [];
  for (const sine of [...sines].sort((a, b) => sizeOf(b) - sizeOf(a))) {
    if (!(sizeOf(sine) < loudest) || sine.fall > fastest * 2) continue;
    const breadth = (other: DampedSine) => Math.max(Math.min(sine.fall, other.fall), 1 / frames);
    if (kept.some((k) => Math.hypot(k.turn - sine.turn, (k.fall - sine.fall) / 2) < SAME * breadth(k))) continue;
    kept.push(sine.fall < slowest ? { ...sine, fall: slowest } : sine);
  }
  return kept;
}

const energyOf = (x: Float64Array): number => x.reduce((sum, v) => sum + v * v, 0);

/** How much may still be computed, in frames of a sine: of sounds that are no sum of decaying sines the search would go on for minutes. */
interface Effort {
  left: number;
}

/** Sines fitted to a sound in some rounds; where a round would make it worse, its steps are held back. */
function refined(
  x: Float64Array,
  sines: readonly DampedSine[],
  times: number,
  limits: Limits,
  effort: Effort,
): DampedSine[] {
  let now = fitAmplitudes(x, sines) ?? [...sines];
  let error = energyOf(withoutSines(x, now));
  let damping = 0;
  for (let n = 0; n < times && now.length > 0 && effort.left > 0; n++) {
    effort.left -= now.length * x.length;
    const moved = refineSines(x, now, damping);
    const next = moved && (fitAmplitudes(x, moved) ?? moved);
    const after = next ? energyOf(withoutSines(x, next)) : Number.POSITIVE_INFINITY;
    if (!next || !(after <= error)) {
      damping = damping === 0 ? 0.3 : damping * 8;
      if (damping > 1e3) break;
      continue;
    }
    damping = damping < 0.1 ? 0 : damping / 8;
    const settled = error - after < 1e-7 * error;
    const tidy = tidied(next, x.length, limits);
    const changed = tidy.length < next.length;
    now = changed ? (fitAmplitudes(x, tidy) ?? tidy) : next;
    error = changed ? energyOf(withoutSines(x, now)) : after;
    if (settled && !changed) break;
  }
  return now;
}

/** Without those that do no more than chance would: taken out, the rest fits nearly as well. Around each first all weaker ones together, then each by itself. */
function needed(x: Float64Array, sines: readonly DampedSine[], limits: Limits, effort: Effort): DampedSine[] {
  let now: readonly DampedSine[] = sines;
  const looked = new Set<string>();
  const nameOf = (gone: readonly DampedSine[]): string =>
    gone.map(({ turn, fall }) => `${turn.toPrecision(4)} ${fall.toPrecision(2)}`).join();
  /** Takes sines out where they aren't needed; whether they weren't. All others are new ones then. */
  const without = (gone: readonly DampedSine[]): boolean => {
    const name = nameOf(gone);
    if (gone.length === 0 || looked.has(name) || effort.left <= 0) return false;
    looked.add(name);
    const left = now.filter((s) => !gone.includes(s));
    const rest = refined(x, left, LAST_REFINEMENTS, limits, effort);
    const error = energyOf(withoutSines(x, now));
    const more = energyOf(withoutSines(x, rest)) - error;
    if (more >= (CHANCE * gone.length * error) / x.length) return false;
    now = rest;
    return true;
  };
  const weakerBy = (sine: DampedSine): DampedSine[] =>
    now.filter(
      (other) =>
        sizeOf(other) < sizeOf(sine) && Math.abs(other.turn - sine.turn) < CROWD * Math.max(other.fall, sine.fall),
    );
  for (let found = true; found; ) {
    const strongest = [...now].sort((a, b) => sizeOf(b) - sizeOf(a));
    found =
      strongest.some((sine) => without(weakerBy(sine))) ||
      strongest.some((sine) => weakerBy(sine).some((weak) => without([weak])));
  }
  return [...now];
}

/**
 * The resonances of a body in a recording of one hit, from low to high. What stands out of the spectrum after the hit is taken as a sum of sines that die away, and
 * all of them are fitted to the sound together by least squares (Gauss and Newton); what is left over is searched again, until nothing stands out that couldn't be
 * chance. An empty list where nothing rings: silence, noise, a click.
 */
export function findModes(
  x: Float32Array,
  rate: Hertz,
  { most, threshold = -60, harmonicsOf }: ModeSearch,
): FoundMode[] {
  const skipped = Math.round(AFTER_HIT * rate);
  const from = hitOf(x, rate) + skipped;
  const frames = Math.min(LONGEST_SPAN, x.length - from);
  if (!(frames >= SHORTEST_SPAN)) return [];
  const sound = Float64Array.from(x.subarray(from, from + frames), (v) => (Number.isFinite(v) ? v : 0));
  // What is no swinging at all is known best at the end.
  const end = sound.subarray(Math.floor(frames * 0.75));
  const offset = end.reduce((a, b) => a + b, 0) / end.length;
  for (let n = 0; n < frames; n++) sound[n] = (sound[n] as number) - offset;
  const peak = sound.reduce((a, b) => Math.max(a, Math.abs(b)), 0);
  if (peak < SILENT) return [];
  let size = 1024;
  while (size < frames) size *= 2;
  const bin = (2 * Math.PI) / size;
  const limits: Limits = { slowest: SIXTY / (LONGEST * rate), fastest: SIXTY / (SHORTEST * rate), loudest: 4 * peak };
  const wanted = (turn: number): boolean => {
    const hertz = (turn * rate) / (2 * Math.PI);
    if (hertz < LOWEST || hertz > rate * HIGHEST) return false;
    if (harmonicsOf === undefined) return true;
    const multiple = Math.max(1, Math.round(hertz / harmonicsOf));
    return Math.abs(hertz / harmonicsOf - multiple) < ASTRAY;
  };
  /** Level at the hit itself; what dies within milliseconds isn't taken to have been far louder then. */
  const levelOf = (sine: DampedSine): Decibels =>
    20 * Math.log10(sizeOf(sine) + 1e-30) + Math.min(MOST_BEFORE, (20 / Math.LN10) * sine.fall * skipped);
  let sines: DampedSine[] = [];
  const refused: Candidate[] = [];
  const search: Effort = { left: SEARCH };
  for (let round = 0; round < ROUNDS && sines.length < most * 1.5; round++) {
    const rest = withoutSines(sound, sines);
    const loudest = sines.reduce((a, s) => Math.max(a, sizeOf(s)), 0);
    const all = candidates(rest, rate, size).filter(
      (c) =>
        c.score > SURE &&
        c.size > Math.min(peak, loudest) * 10 ** ((threshold - 18) / 20) &&
        wanted(c.bin * bin) &&
        refused.filter((r) => Math.abs(r.bin - c.bin) < NEIGHBOURS && c.score < r.score + BETTER).length < TRIES,
    );
    const top = all[0]?.score ?? 0;
    const taken: Candidate[] = [];
    for (const candidate of all) {
      if (candidate.score < top - REACH || taken.length >= Math.max(8, most / 4)) break;
      const apart = (c: Candidate) => Math.abs(c.bin - candidate.bin) * bin > 6 * Math.max(c.fall, candidate.fall, bin);
      if (taken.every(apart)) taken.push(candidate);
    }
    if (taken.length === 0) break;
    // Each by itself in what is left first: from there all together find their places.
    const fresh = taken.flatMap(({ bin: k, fall }) =>
      refined(rest, [{ turn: k * bin, fall, re: 0, im: 0 }], REFINEMENTS, limits, search),
    );
    const next = refined(sound, [...sines, ...fresh], REFINEMENTS, limits, search);
    const least =
      Math.min(
        peak,
        next.reduce((a, s) => Math.max(a, sizeOf(s)), 0),
      ) *
      10 ** ((threshold - 12) / 20);
    sines = next.filter((s) => sizeOf(s) > least);
    // What stands out where it was taken already, or goes again, isn't looked at once more.
    refused.push(...taken);
  }
  sines = needed(sound, refined(sound, sines, LAST_REFINEMENTS, limits, { left: FINAL }), limits, {
    left: FINAL,
  }).filter((s) => wanted(s.turn));
  const loudest = sines.reduce((a, s) => Math.max(a, levelOf(s)), Number.NEGATIVE_INFINITY);
  return sines
    .map((s) => ({
      hertz: (s.turn * rate) / (2 * Math.PI),
      level: levelOf(s) - loudest,
      decay: SIXTY / (s.fall * rate),
    }))
    .filter((m) => m.level >= threshold && m.decay >= SHORTEST)
    .sort((a, b) => b.level - a.level)
    .slice(0, most)
    .sort((a, b) => a.hertz - b.hertz);
}
