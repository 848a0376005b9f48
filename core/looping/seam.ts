import { fftOf } from "../audio";
import { LoopGain, type LoopTap, likenessOf, loopTap, tapped } from "../dsp";
import type { Loop } from "../instrument";

/** What a loop's seam does to the sound. */
export interface SeamMeasure {
  /** The largest change of spectrum around the seam, against what is usual inside the loop: below about 1.5 nobody hears it. */
  readonly change: number;
  /** Change of the level across the seam, in decibels. */
  readonly level: number;
  /** Decibels by which what is highest in pitch rises at the seam beyond what is usual inside the loop: a step that is left, however weak. */
  readonly click: number;
  /** Decibels by which the level leaves, at the seam, the range in which it lies inside the loop: partials that cancel, or add up. */
  readonly swing: number;
}

/** `count` frames of the playback that goes round a loop for ever, from time `at` on. */
export function unrolled(x: Float32Array, loop: Loop, alike: number, at: number, count: number): Float32Array {
  const out = new Float32Array(count);
  const tap: LoopTap = { frame: 0, weight: 1, other: 0, otherWeight: 0 };
  const gain = LoopGain.of(loop);
  const read = (frame: number): number => x[frame] ?? 0;
  for (let i = 0; i < count; i++) {
    loopTap(loop, alike, at + i, tap);
    out[i] = tapped(read, tap, gain);
  }
  return out;
}

const SIZE = 1024;
const HOP = 256;
/** Magnitudes are compressed by log(1 + γ·m), as the ear does. */
const GAMMA = 1000;

const WINDOW = Float64Array.from({ length: SIZE }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / SIZE));

/** Change of the compressed spectrum from each stretch to the next (spectral flux; S. Dixon, "Onset detection revisited", 2006), rises and falls alike. */
export function fluxOf(x: Float32Array): Float64Array {
  const fft = fftOf(SIZE);
  const count = Math.max(0, Math.floor((x.length - SIZE) / HOP) + 1);
  const flux = new Float64Array(Math.max(0, count - 1));
  const re = new Float64Array(SIZE);
  const im = new Float64Array(SIZE);
  const half = SIZE / 2;
  // Two stretches go through one transform, as its real and its imaginary part.
  const rows = [new Float64Array(half), new Float64Array(half), new Float64Array(half)] as [
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  const change = (a: Float64Array, b: Float64Array): number => {
    let sum = 0;
    for (let k = 0; k < half; k++) sum += Math.abs((a[k] as number) - (b[k] as number));
    return sum;
  };
  for (let n = 0; n < count; n += 2) {
    const [before, first, second] = rows;
    const at = n * HOP;
    for (let i = 0; i < SIZE; i++) {
      const w = WINDOW[i] as number;
      re[i] = (x[at + i] as number) * w;
      im[i] = (x[at + HOP + i] ?? 0) * w;
    }
    fft.forward(re, im);
    for (let k = 0; k < half; k++) {
      const j = (SIZE - k) % SIZE;
      const [a, b, c, d] = [re[k] as number, im[k] as number, re[j] as number, im[j] as number];
      const one = Math.sqrt((a + c) * (a + c) + (b - d) * (b - d));
      const two = Math.sqrt((b + d) * (b + d) + (c - a) * (c - a));
      first[k] = Math.log(1 + (GAMMA * one) / SIZE);
      second[k] = Math.log(1 + (GAMMA * two) / SIZE);
    }
    if (n > 0) flux[n - 1] = change(before, first);
    if (n < flux.length) flux[n] = change(first, second);
    rows[0] = second;
    rows[2] = before;
  }
  return flux;
}

/** The value below which a share of some values lies. */
const quantile = (values: Float64Array, share: number): number =>
  values.slice().sort()[Math.floor((values.length - 1) * share)] ?? 0;

/** How much a sound's spectrum changes by itself, all along it. */
export class OwnChange {
  private readonly tracks: readonly Float64Array[];
  private readonly sharps: readonly Float64Array[];
  private readonly levels: readonly Float64Array[];

  /** Of frames `[from, to)` of each channel. */
  constructor(
    channels: readonly Float32Array[],
    private readonly from: number,
    private readonly to: number,
    private readonly rare = 0.1,
  ) {
    this.tracks = channels.map((x) => fluxOf(x.subarray(from, to)));
    this.sharps = channels.map((x) => sharpOf(x.subarray(from, to)));
    this.levels = channels.map((x) => powersOf(x.subarray(from, to)));
  }

  /** What is usual in a channel between two frames: only so large a share of the changes (one in ten) is larger. Of less than four stretches, in as much as there is around them. */
  usual(channel: number, start: number, end: number): number {
    const least = 6 * SIZE;
    const middle = (start + end) / 2;
    const low = Math.max(this.from, Math.min(start, middle - least / 2));
    const high = Math.min(this.to, Math.max(end, middle + least / 2));
    const track = this.tracks[channel] as Float64Array;
    const part = track.subarray(
      Math.max(0, Math.floor((low - this.from) / HOP)),
      Math.max(1, Math.ceil((high - this.from - SIZE) / HOP)),
    );
    return Math.max(quantile(part, 1 - this.rare), 1e-3);
  }

  /** Power of what is highest in pitch: all but a few stretches are below that. */
  usualSharp(channel: number, start: number, end: number): number {
    const part = this.part(this.sharps[channel] as Float64Array, start, end, SHARP_HOP, SHARP);
    return Math.max(quantile(part, 0.97), FAINTEST);
  }

  /** The lowest and the highest power of short stretches. */
  range(channel: number, start: number, end: number): readonly [number, number] {
    const part = this.part(this.levels[channel] as Float64Array, start, end, LEVEL_HOP, LEVEL);
    return [Math.max(quantile(part, 0.01), FAINTEST), Math.max(quantile(part, 0.99), FAINTEST)];
  }

  private part(track: Float64Array, start: number, end: number, hop: number, size: number): Float64Array {
    const a = Math.max(0, Math.floor((start - this.from) / hop));
    const b = Math.ceil((end - this.from - size) / hop);
    return track.subarray(Math.min(a, Math.max(0, track.length - 1)), Math.max(a + 1, b));
  }
}

/** Frames in which what is highest in pitch is taken, and in which the level is; and power below which nothing is heard (−96 dB). */
const SHARP = 128;
const SHARP_HOP = 64;
const LEVEL = 1024;
const LEVEL_HOP = 512;
const FAINTEST = 2.5e-10;

/** (1 − z⁻¹)⁸ (1 + z⁻¹)⁴: most at three tenths of the rate (13 kHz); at a tenth of it 55 dB less, so that what a tone has itself is gone. */
const SHARPEN = [-1, -1, -1, -1, -1, -1, -1, -1, 1, 1, 1, 1].reduce(
  (taps: readonly number[], sign) =>
    Array.from({ length: taps.length + 1 }, (_, k) => (taps[k] ?? 0) + sign * (taps[k - 1] ?? 0)),
  [1],
);

/** One over the power of the same at its most: (2 sin ω/2)⁸ (2 cos ω/2)⁴ where tan² ω/2 is 2. */
const SHARPENED = 1 / ((8 / 3) ** 8 * (4 / 3) ** 4);

/** Power of what is highest in pitch in a sound, in short stretches. */
function sharpOf(x: Float32Array): Float64Array {
  const squares = (i: number): number => {
    let v = 0;
    for (let k = 0; k < SHARPEN.length; k++) v += (SHARPEN[k] as number) * (x[i + k] as number);
    return v * v * SHARPENED;
  };
  return powers(squares, x.length - SHARPEN.length + 1, SHARP, SHARP_HOP);
}

const powersOf = (x: Float32Array): Float64Array => powers((i) => (x[i] as number) ** 2, x.length, LEVEL, LEVEL_HOP);

/** Mean of some squares in stretches of a size, a hop apart. */
function powers(square: (i: number) => number, count: number, size: number, hop: number): Float64Array {
  const parts = Math.floor(count / hop);
  const sums = new Float64Array(Math.max(0, parts));
  for (let n = 0; n < parts; n++) {
    let sum = 0;
    for (let i = n * hop; i < (n + 1) * hop; i++) sum += square(i);
    sums[n] = sum;
  }
  const many = size / hop;
  return Float64Array.from({ length: Math.max(0, parts - many + 1) }, (_, n) => {
    let sum = 0;
    for (let k = 0; k < many; k++) sum += sums[n + k] as number;
    return sum / size;
  });
}

/** Where a loop's seams lie in the time of its playback, in frames: from where to where each is crossfaded. */
export function seamsOf({ start, end, fade, mode }: Loop): readonly (readonly [number, number])[] {
  if (mode === "forward") return [[end - fade, end]];
  const last = end - 1;
  const bottom = 2 * last - start;
  return mode === "alternating"
    ? [
        [last, last + fade],
        [bottom, bottom + fade],
      ]
    : [
        [last, last + fade],
        [bottom - fade, bottom + 1],
      ];
}

/** Measures the seams of a loop in each channel; the worst counts. `own` is what the sound does by itself. */
export function measureSeam(
  channels: readonly Float32Array[],
  loop: Loop,
  own: OwnChange = new OwnChange(channels, loop.start, loop.end),
): SeamMeasure {
  const alike = likenessOf(channels[0] as Float32Array, loop);
  const around = 2 * SIZE;
  // Of short loops a later round: what comes before the first one is no part of them.
  const later = loop.mode === "forward" ? Math.ceil(around / (loop.end - loop.start)) * (loop.end - loop.start) : 0;
  let change = 0;
  let level = 0;
  let click = 0;
  let swing = 0;
  channels.forEach((x, c) => {
    for (const [from, to] of seamsOf(loop)) {
      const over = unrolled(x, loop, alike, Math.max(0, from + later - around), to - from + 2 * around);
      let most = 0;
      for (const f of fluxOf(over)) most = Math.max(most, f);
      change = Math.max(change, most / own.usual(c, loop.start, loop.end));
      level = Math.max(level, Math.abs(stepOf(over, to - from, around)));
      click = Math.max(click, decibels(largest(sharpOf(over)) / own.usualSharp(c, loop.start, loop.end)));
      const [low, high] = own.range(c, loop.start, loop.end);
      const crossed = powersOf(over);
      swing = Math.max(swing, decibels(low / Math.max(FAINTEST, smallest(crossed))), decibels(largest(crossed) / high));
    }
  });
  return { change, level, click, swing };
}

const decibels = (power: number): number => 10 * Math.log10(power + 1e-30);

function largest(values: Float64Array): number {
  let most = 0;
  for (const v of values) most = Math.max(most, v);
  return most;
}

function smallest(values: Float64Array): number {
  let least = Number.POSITIVE_INFINITY;
  for (const v of values) least = Math.min(least, v);
  return least;
}

/** Level behind a seam against that before it, in decibels. */
function stepOf(over: Float32Array, fade: number, around: number): number {
  const power = (from: number, to: number) => {
    let sum = 1e-12;
    for (let i = from; i < to; i++) sum += (over[i] as number) ** 2;
    return sum / (to - from);
  };
  return 10 * Math.log10(power(around + fade, over.length) / power(0, around));
}
