import { type Fft, fftOf, type Hertz, hertzOf, type Note, noteOf } from "../audio";
import { centreOf } from "./vibrato";

/**
 * The pitch of a sound: a MIDI note with fraction, and how sure it is (0 to 1). `note` is null where there is none. `clarity` is
 * how periodic its stretches are, and `wander` how far their pitches lie apart on average, in semitones.
 */
export interface Pitch {
  readonly note: Note | null;
  readonly confidence: number;
  readonly clarity: number;
  readonly wander: number;
}

/** A stretch as it went into the transform: its mean, and its energy without it. */
interface Loaded {
  readonly mean: number;
  readonly total: number;
}

const NO_PITCH: Pitch = { note: null, confidence: 0, clarity: 0, wander: 0 };
/** Share of the highest peak that the first key maximum must reach (McLeod and Wyvill, 2005). */
const KEY_SHARE = 0.9;

/** Stretches that are enough where all of them are so clear and lie no more semitones apart: of a tone that swings two may agree by chance. */
const ENOUGH = 4;
const CLEAR = 0.97;
const AGREED = 0.05;

/** Semitones by which stretches lie apart on average where a tone swings; by more it is no single tone. */
const SWINGS = 0.04;
const SWINGS_MOST = 0.8;
/** Seconds of the stretches in which a swing is followed, and from one to the next. */
const FOLLOWED = 0.03;
const FOLLOW_STEP = 0.0125;

/** The same places in an order in which the first few lie all over them. */
function spread(places: readonly number[]): readonly number[] {
  const order: number[] = [];
  for (const first of [0, 3, 1, 4, 2, 5])
    for (let i = first; i < places.length; i += 6) order.push(places[i] as number);
  return order;
}

/** How far the lowest and the highest lie apart. */
function apartBy(notes: readonly { readonly note: number }[]): number {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const { note } of notes) {
    low = Math.min(low, note);
    high = Math.max(high, note);
  }
  return high - low;
}

/**
 * Finds the pitch of plucked, struck or sustained sounds by the normalised square difference of McLeod and Wyvill ("A
 * smarter way to find pitch", 2005): the attack is skipped, up to 12 frames are measured (four where these are clear and agree), each period is refined at its
 * largest multiple inside the frame, and the weighted median counts; of a tone that swings the mean over whole periods of its vibrato.
 */
export class PitchFinder {
  private readonly size: number;
  private readonly fft: Fft;
  private readonly re: Float64Array;
  private readonly im: Float64Array;
  private readonly nsdf: Float64Array;

  /** Lowest and highest pitch that is looked for, in hertz. */
  constructor(
    readonly rate: Hertz,
    readonly lowest: Hertz = 32,
    readonly highest: Hertz = 4200,
  ) {
    if (!(lowest > 0 && highest > lowest && highest < rate / 4)) {
      throw new RangeError(`pitch is looked for between ${lowest} and ${highest} Hz: that can't be at ${rate} Hz`);
    }
    this.size = 2 ** Math.ceil(Math.log2((rate / lowest) * 2.6));
    this.fft = fftOf(this.size * 2);
    this.re = new Float64Array(this.size * 2);
    this.im = new Float64Array(this.size * 2);
    this.nsdf = new Float64Array(this.size);
  }

  /** Pitch of the sound in `[from, to)` of one channel. */
  find(samples: Float32Array, from = 0, to = samples.length): Pitch {
    const length = to - from;
    const skip = Math.min(Math.round(0.035 * this.rate), Math.floor(length / 4));
    const usable = length - skip;
    const window = Math.min(this.size, usable);
    if (window < this.rate / 200) return NO_PITCH;
    const span = Math.min(usable - window, Math.round(0.9 * this.rate));
    const hop = Math.max(window / 4, span / 11);
    const notes: { note: number; weight: number }[] = [];
    let clarity = 0;
    let heard = 0;
    let least = 1;
    const places: number[] = [];
    for (let at = 0; at <= span && hop > 0; at += hop) places.push(from + skip + Math.floor(at));
    const order = spread(places);
    for (let i = 0; i < order.length; i += 2) {
      const frames = this.frames(samples, order.slice(i, i + 2), window);
      for (const frame of frames) {
        if (!frame) continue;
        heard += frame.power;
        clarity += frame.clarity * frame.power;
        least = Math.min(least, frame.clarity);
        if (frame.period > 0)
          notes.push({ note: noteOf(this.rate / frame.period), weight: frame.clarity ** 4 * Math.sqrt(frame.power) });
      }
      // Where stretches from beginning to end say the same clearly, those between have nothing to add.
      if (i + 2 >= ENOUGH && notes.length === i + 2 && least >= CLEAR && apartBy(notes) < AGREED) break;
    }
    const middle = weightedMedian(notes);
    if (middle === null || heard === 0) return NO_PITCH;
    let agreeing = 0;
    let all = 0;
    let apart = 0;
    for (const { note, weight } of notes) {
      all += weight;
      apart += weight * Math.abs(note - middle);
      if (Math.abs(note - middle) < 0.5) agreeing += weight;
    }
    const wander = apart / all;
    const swings = wander > SWINGS && wander < SWINGS_MOST && agreeing > 0.5 * all;
    return {
      note: swings ? this.centre(samples, from + skip, from + skip + span + window, middle) : middle,
      confidence: Math.max(0, Math.min(1, ((clarity / heard) * agreeing) / all)),
      clarity: clarity / heard,
      wander,
    };
  }

  /** The pitch about which a tone swings (vibrato) in `[from, to)`, near what its stretches say together: each of many short ones is taken. */
  private centre(samples: Float32Array, from: number, to: number, near: Note): Note {
    const period = this.rate / hertzOf(near);
    const window = Math.min(this.size, Math.round(Math.max(FOLLOWED * this.rate, 4 * period)));
    const hop = Math.round(FOLLOW_STEP * this.rate);
    const track: number[] = [];
    for (let at = from; at + window + hop <= to; at += 2 * hop) {
      for (const frame of this.frames(samples, [at, at + hop], window)) {
        const note = frame && frame.period > 0 ? noteOf(this.rate / frame.period) : Number.NaN;
        // Where it can't be followed it is as it was a moment ago.
        track.push(Math.abs(note - near) < 1.5 ? note : (track.at(-1) ?? near));
      }
    }
    return track.length < 8 ? near : centreOf(track, FOLLOW_STEP);
  }

  /**
   * Periods of one or two stretches. Both go through one transform, as its real and its imaginary part: their spectra come apart
   * by symmetry, and so do their autocorrelations.
   */
  private frames(samples: Float32Array, places: readonly number[], window: number) {
    const { size, re, im, fft } = this;
    const n = size * 2;
    re.fill(0);
    im.fill(0);
    const totals = places.map((at, which) => this.load(samples, at, window, which === 0 ? re : im));
    fft.forward(re, im);
    for (let k = 0; k <= size; k++) {
      const j = (n - k) % n;
      const [a, b, c, d] = [re[k] as number, im[k] as number, re[j] as number, im[j] as number];
      const first = ((a + c) * (a + c) + (b - d) * (b - d)) / 4;
      const second = ((b + d) * (b + d) + (c - a) * (c - a)) / 4;
      re[k] = first;
      re[j] = first;
      im[k] = second;
      im[j] = second;
    }
    // A forward transform of a real, even spectrum is its inverse but for the factor.
    fft.forward(re, im);
    return places.map((at, which) => this.measure(samples, at, window, totals[which] as Loaded, which === 0 ? re : im));
  }

  /** Puts a stretch without its mean into one part of the transform. */
  private load(samples: Float32Array, at: number, window: number, into: Float64Array): Loaded {
    let mean = 0;
    for (let i = 0; i < window; i++) mean += samples[at + i] ?? 0;
    mean /= window;
    let total = 0;
    for (let i = 0; i < window; i++) {
      const x = (samples[at + i] ?? 0) - mean;
      into[i] = x;
      total += x * x;
    }
    return { mean, total };
  }

  private measure(
    samples: Float32Array,
    at: number,
    window: number,
    { mean, total }: Loaded,
    correlation: Float64Array,
  ) {
    if (total / window < 1e-12) return null;
    const { size, nsdf } = this;
    const scale = 1 / (size * 2);
    const most = Math.min(Math.floor(window * 0.8), size - 2);
    let energy = 2 * total;
    for (let lag = 0; lag <= most; lag++) {
      nsdf[lag] = energy > 1e-9 * total ? (2 * (correlation[lag] as number) * scale) / energy : 0;
      const head = (samples[at + lag] ?? 0) - mean;
      const tail = (samples[at + window - 1 - lag] ?? 0) - mean;
      energy -= head * head + tail * tail;
    }
    const { period, clarity } = this.period(Math.min(most, Math.ceil(this.rate / this.lowest)), most);
    return { period, clarity, power: total / window };
  }

  /** The first key maximum that is nearly the highest, refined at a multiple of it. */
  private period(longest: number, most: number): { period: number; clarity: number } {
    const { nsdf } = this;
    const shortest = Math.floor(this.rate / this.highest);
    let lag = 1;
    while (lag < longest && (nsdf[lag] as number) > 0) lag++;
    const peaks: number[] = [];
    let highest = 0;
    let best = -1;
    for (; lag < longest; lag++) {
      const y = nsdf[lag] as number;
      if (y <= 0) {
        if (best >= 0) peaks.push(best);
        best = -1;
      } else if (lag >= shortest && y >= (nsdf[lag - 1] as number) && y > (nsdf[lag + 1] as number)) {
        if (best < 0 || y > (nsdf[best] as number)) best = lag;
        if (y > highest) highest = y;
      }
    }
    if (best >= 0) peaks.push(best);
    const first = peaks.find((p) => (nsdf[p] as number) >= KEY_SHARE * highest);
    if (first === undefined) return { period: 0, clarity: 0 };
    const coarse = this.vertex(first);
    let period = coarse;
    const reach = Math.max(2, coarse * 0.12);
    for (let multiple = 2; multiple * period + reach < most * 0.75 && multiple <= 16; multiple *= 2) {
      const near = this.peakNear(Math.round(multiple * period), reach);
      if (near < 0 || (nsdf[near] as number) < 0.7 * (nsdf[first] as number)) break;
      period = this.vertex(near) / multiple;
    }
    return { period, clarity: Math.max(0, Math.min(1, nsdf[first] as number)) };
  }

  private peakNear(lag: number, reach: number): number {
    let best = -1;
    for (let i = Math.max(1, Math.ceil(lag - reach)); i <= lag + reach; i++) {
      const y = this.nsdf[i] as number;
      if (y < (this.nsdf[i - 1] as number) || y <= (this.nsdf[i + 1] as number)) continue;
      if (best < 0 || y > (this.nsdf[best] as number)) best = i;
    }
    return best;
  }

  /** The top of the parabola through a peak and its neighbours. */
  private vertex(lag: number): number {
    const a = this.nsdf[lag - 1] as number;
    const b = this.nsdf[lag] as number;
    const c = this.nsdf[lag + 1] as number;
    const bend = a - 2 * b + c;
    return bend === 0 ? lag : lag + (0.5 * (a - c)) / bend;
  }
}

let last: PitchFinder | null = null;

/** The finder of a rate, from 32 Hz to 4,200 Hz: files of one rate after the other are served by one, which holds nothing of what it heard. */
export function pitchFinderOf(rate: Hertz): PitchFinder {
  if (last?.rate !== rate) last = new PitchFinder(rate, 32, Math.min(4200, rate / 5));
  return last;
}

function weightedMedian(values: { note: number; weight: number }[]): number | null {
  const sorted = [...values].sort((a, b) => a.note - b.note);
  const half = sorted.reduce((sum, v) => sum + v.weight, 0) / 2;
  let passed = 0;
  for (const { note, weight } of sorted) {
    passed += weight;
    if (passed >= half) return note;
  }
  return null;
}
