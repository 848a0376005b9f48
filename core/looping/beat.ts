import { findAttacks, measureFlux, measureLevels } from "../analysis";
import { type Audio, type Hertz, monoOf } from "../audio";

/** A beat that was found: beats a minute, the frame of a bar's first beat, beats in a bar, and what share of the attacks lies on it (0 to 1). */
export interface FoundBeat {
  readonly tempo: number;
  readonly downbeat: number;
  readonly bar: number;
  readonly sure: number;
  /** Frames of the attacks. */
  readonly attacks: readonly number[];
}

/** Tempo that is likeliest when nothing else speaks, beats a minute; and how many octaves on either side are about as likely. */
const LIKELY = 120;
const SPREAD = 0.9;
/** Steps of the course of the attacks, and the width of one in it, in seconds. */
const COURSE = 0.005;
const HUMP = 0.012;
/** Silence before the sound, in seconds. */
const LEAD = 0.1;
/** Seconds of a beat. */
const SHORTEST = 60 / 210;
const LONGEST = 60 / 50;
/** Parts of a beat on which attacks may lie, and how near they must, in seconds and in shares of a part. */
const PARTS = 4;
const NEAR = 0.012;
const NEAR_SHARE = 0.16;
const BAR = 4;
/** Attacks of which a beat is made, at least; the share of them that must lie on it; and the likeness of the sound with itself one beat later. */
const FEWEST = 6;
const SURE = 0.75;
const PERIODIC = 0.06;
/** Of several phases the one that the sound begins with has so much more weight. */
const FIRST = 0.6;

/**
 * The beat of a sound, or null where it has none. The period is the highest peak of the autocorrelation of the attacks' strengths, weighted by how likely a tempo is (D. Ellis,
 * "Beat tracking by dynamic programming", 2007); then a grid of a quarter of it is laid through the attacks themselves by least squares.
 */
export function findBeat(audio: Audio, start: number, end: number): FoundBeat | null {
  const { rate } = audio;
  if (end - start < rate) return null;
  // Silence before it, so that what begins at once is heard to begin.
  const lead = Math.round(LEAD * rate);
  const mono = new Float32Array(lead + end - start);
  mono.set(monoOf(audio).subarray(start, end), lead);
  const levels = measureLevels(mono, rate);
  const flux = measureFlux(mono, rate, levels.floor);
  const attacks = findAttacks(flux, levels, 0.5, 0.05);
  if (attacks.length < FEWEST) return null;
  const strengths = attacks.map((at) => strengthOf(mono, at, rate));
  const times = attacks.map((at) => at / rate);
  const period = periodOf(courseOf(times, strengths, mono.length / rate), 1 / COURSE);
  if (period === null) return null;
  const grid = gridOf(times, strengths, period / PARTS);
  if (grid.sure < SURE) return null;
  const down = downbeatOf(times, strengths, grid);
  return {
    tempo: 60 / (grid.part * PARTS),
    downbeat: start + Math.max(0, Math.round(down * rate) - lead),
    bar: BAR,
    sure: grid.sure,
    attacks: attacks.map((at) => start + Math.max(0, at - lead)),
  };
}

/** How much an attack weighs: the root of its mean power over 60 ms. */
function strengthOf(x: Float32Array, at: number, rate: Hertz): number {
  const to = Math.min(x.length, at + Math.round(0.06 * rate));
  let sum = 0;
  for (let i = at; i < to; i++) sum += (x[i] as number) ** 2;
  return Math.sqrt(sum / Math.max(1, to - at));
}

/** The course of the attacks: for each step a hump where there is one, as high as it is strong. */
function courseOf(times: readonly number[], strengths: readonly number[], seconds: number): Float64Array {
  const course = new Float64Array(Math.ceil(seconds / COURSE) + 1);
  times.forEach((t, i) => {
    for (let n = Math.max(0, Math.floor((t - 4 * HUMP) / COURSE)); n < course.length && n * COURSE < t + 4 * HUMP; n++)
      course[n] = (course[n] as number) + (strengths[i] as number) * Math.exp(-0.5 * ((n * COURSE - t) / HUMP) ** 2);
  });
  return course;
}

/** The period of a beat in seconds, of a course with so many values a second; null where nothing repeats. */
function periodOf(values: Float64Array, perSecond: number): number | null {
  let mean = 0;
  for (const v of values) mean += v / values.length;
  const x = Float64Array.from(values, (v) => v - mean);
  const at = (lag: number): number => {
    let sum = 0;
    for (let i = 0; i + lag < x.length; i++) sum += (x[i] as number) * (x[i + lag] as number);
    return sum / (x.length - lag);
  };
  const power = at(0);
  if (!(power > 0)) return null;
  let best = { lag: 0, worth: 0, alike: 0 };
  const last = Math.min(Math.round(LONGEST * perSecond), Math.floor(x.length / 2));
  for (let lag = Math.round(SHORTEST * perSecond); lag <= last; lag++) {
    // A place between two steps: what lies there is shared by both.
    const alike = (at(lag - 1) / 2 + at(lag) + at(lag + 1) / 2) / 2 / power;
    const octaves = Math.log2((60 * perSecond) / lag / LIKELY);
    const worth = alike * Math.exp(-0.5 * (octaves / SPREAD) ** 2);
    if (worth > best.worth) best = { lag, worth, alike };
  }
  return best.alike >= PERIODIC ? best.lag / perSecond : null;
}

interface Grid {
  /** Seconds of a part of a beat, and where one of them begins. */
  readonly part: number;
  readonly origin: number;
  readonly sure: number;
}

/** Places of attacks on a grid: the number of the part that each is nearest to, and how far it is off in seconds. */
const placed = (times: readonly number[], { part, origin }: Pick<Grid, "part" | "origin">) =>
  times.map((t) => {
    const n = Math.round((t - origin) / part);
    return { n, off: t - origin - n * part };
  });

/** Lays a grid through attacks, from the strongest on outward, so that a small error of the first guess can't count parts wrongly. */
function gridOf(times: readonly number[], strengths: readonly number[], guess: number): Grid {
  let best: Grid = { part: guess, origin: 0, sure: -1 };
  let least = Number.POSITIVE_INFINITY;
  for (let bend = -6; bend <= 6; bend++) {
    const first = guess * (1 + bend * 0.006);
    const fitted = fitGrid(times, strengths, first);
    const places = placed(times, fitted);
    const near = places.map(({ off }) => Math.abs(off) <= Math.max(NEAR, NEAR_SHARE * fitted.part));
    const weight = strengths.reduce((s, w) => s + w, 0);
    const sure = strengths.reduce((s, w, i) => s + (near[i] ? w : 0), 0) / weight;
    const error = places.reduce((s, { off }, i) => s + (near[i] ? (strengths[i] as number) * off * off : 0), 0);
    if (sure > best.sure + 0.02 || (sure > best.sure - 0.02 && error < least)) {
      best = { ...fitted, sure };
      least = error;
    }
  }
  return best;
}

function fitGrid(times: readonly number[], strengths: readonly number[], first: number) {
  const strongest = strengths.indexOf(Math.max(...strengths));
  let part = first;
  let origin = times[strongest] as number;
  const centre = origin;
  const span = Math.max(...times.map((t) => Math.abs(t - centre)));
  for (let reach = 4 * PARTS * first; ; reach *= 2) {
    const within = times
      .map((t, i) => ({ t, w: strengths[i] as number }))
      .filter((p) => Math.abs(p.t - centre) <= reach);
    for (let turn = 0; turn < 3; turn++) {
      let [sw, sn, st, snn, snt] = [0, 0, 0, 0, 0];
      for (const { t, w } of within) {
        const n = Math.round((t - origin) / part);
        if (Math.abs(t - origin - n * part) > Math.max(NEAR, NEAR_SHARE * part)) continue;
        sw += w;
        sn += w * n;
        st += w * t;
        snn += w * n * n;
        snt += w * n * t;
      }
      const across = sw * snn - sn * sn;
      if (!(across > 1e-12)) break;
      part = (sw * snt - sn * st) / across;
      origin = (st - part * sn) / sw;
      if (!(part > first * 0.9 && part < first * 1.1)) return { part: first, origin: centre };
    }
    if (reach >= span) return { part, origin };
  }
}

/** Where the first bar begins, in seconds: at the part of a bar on which the strongest attacks lie. */
function downbeatOf(times: readonly number[], strengths: readonly number[], grid: Grid): number {
  const parts = PARTS * BAR;
  const places = placed(times, grid);
  const first = places[0]?.n ?? 0;
  const weight = strengths.reduce((s, w) => s + w, 0);
  let best = { phase: 0, worth: -1 };
  const modulo = (n: number, by: number) => ((n % by) + by) % by;
  for (let phase = 0; phase < parts; phase++) {
    let [bar, beat] = [0, 0];
    places.forEach(({ n }, i) => {
      if (modulo(n - phase, parts) === 0) bar += strengths[i] as number;
      if (modulo(n - phase, PARTS) === 0) beat += strengths[i] as number;
    });
    const worth = (2 * bar + beat) / weight + (modulo(first - phase, parts) === 0 ? FIRST : 0);
    if (worth > best.worth) best = { phase, worth };
  }
  // The first bar that begins no earlier than just before the first attack.
  const n = best.phase + Math.ceil((first - best.phase) / parts) * parts;
  return grid.origin + n * grid.part;
}
