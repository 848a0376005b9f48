import { KernelMemory } from "./kernel-memory";
import type { Kernels } from "./kernels/kernels";

/** Frames of the first partitions, and of the direct part before them. */
export const SHORT = 128;
/** Frames of the later partitions; their work is spread over as many short blocks. */
const LONG = 2048;
const STEPS = LONG / SHORT;
/** Where the long partitions begin: two of their lengths, so that there is time for their work. */
export const TAIL = 2 * LONG;
const SHORTS = TAIL / SHORT - 1;
/** Short partitions of a new impulse that are made ready in one block; of the long ones it is one. */
const READY = 4;

/** Bytes of memory that a room of so many frames may take: 32 for each frame and channel, and as much again for what is rounded up. */
const bytesFor = (frames: number): number => 4 * 2 ** 20 + frames * 2 * 64;

/** By how much an impulse may be stretched. */
export const MOST_STRETCH = 2;

/** What of an impulse is heard: from which of its frames on, for how many frames (as long as they sound), over how many of them it comes in and fades, whether backwards, and how many times as slow. */
export interface Cut {
  start: number;
  frames: number;
  rise: number;
  fade: number;
  reversed: boolean;
  stretch: number;
}

/** Between the frames of a sound, `step` of which pass with each that is read: a cubic (Lagrange), or where they pass faster a mean that takes off what would fold back. */
function between(x: Float32Array, position: number, step: number): number {
  const whole = Math.floor(position);
  const t = position - whole;
  if (step <= 1) {
    if (t === 0) return x[whole] ?? 0;
    const a = x[whole - 1] ?? 0;
    const b = x[whole] ?? 0;
    const c = x[whole + 1] ?? 0;
    const d = x[whole + 2] ?? 0;
    const c1 = c - a / 3 - b / 2 - d / 6;
    const c2 = (a + c) / 2 - b;
    const c3 = (d - a) / 6 + (b - c) / 2;
    return ((c3 * t + c2) * t + c1) * t + b;
  }
  // A sinc under a Hann window of four of its zeros to each side.
  const reach = Math.ceil(4 * step);
  let sum = 0;
  let weights = 0;
  for (let k = -reach; k <= reach + 1; k++) {
    const away = (k - t) / step;
    if (Math.abs(away) >= 4) continue;
    const sinc = away === 0 ? 1 : Math.sin(Math.PI * away) / (Math.PI * away);
    const weight = sinc * (0.5 + 0.5 * Math.cos((Math.PI * away) / 4));
    weights += weight;
    sum += weight * (x[whole + k] ?? 0);
  }
  return sum / weights;
}

/** Cos and sin of once, twice and three times the angles of the first quarter of a circle, six arrays one after another, as the kernels' transform wants them. */
export function turnsOf(size: number): Float32Array {
  const quarter = size / 4;
  const turns = new Float32Array(6 * quarter);
  for (let n = 0; n < 3; n++) {
    for (let k = 0; k < quarter; k++) {
      const angle = (2 * Math.PI * (n + 1) * k) / size;
      turns[2 * n * quarter + k] = Math.cos(angle);
      turns[(2 * n + 1) * quarter + k] = Math.sin(angle);
    }
  }
  return turns;
}

/** Addresses of what a transform of one size works with, and of as many spectra as there are partitions of that size. */
interface Partitions {
  readonly size: number;
  /** Bytes of one part (real or imaginary) of one channel's spectrum, and of a whole one: two channels, two parts each. */
  readonly stride: number;
  readonly turns: number;
  readonly impulse: number;
  readonly past: number;
  readonly sum: number;
}

/**
 * Two channels convolved with an impulse of two channels, without delay: the first 128 frames directly, then partitions of 128 and of 2048 frames by Fourier
 * transforms (W. G. Gardner, "Efficient convolution without input-output delay", 1995), both channels in one transform, the work of the long ones spread over
 * the blocks between. In a memory of its own; nothing is allocated but when it is made.
 */
export class ImpulseRoom {
  private readonly kernels: Kernels;
  private readonly f32: Float32Array;
  private readonly short: Partitions;
  private readonly long: Partitions;
  /** Long partitions that there is room for, and that are used. */
  private readonly longMost: number;
  private longCount = 0;
  /** Addresses: both parts of what is transformed, and of what the transform works in. */
  private readonly re: number;
  private readonly im: number;
  private readonly workRe: number;
  private readonly workIm: number;
  /** Addresses, for both channels each: the reversed first taps; this block and the one before it; what the taps give. */
  private readonly heads: readonly number[];
  private readonly recents: readonly number[];
  private readonly straights: readonly number[];
  /** What the partitions give in this block, and the overlap into the next. */
  private readonly coming = [new Float32Array(SHORT), new Float32Array(SHORT)] as const;
  private readonly overlap = [new Float32Array(SHORT), new Float32Array(SHORT)] as const;
  private readonly longInput = [new Float32Array(LONG), new Float32Array(LONG)] as const;
  private readonly longWhole = [new Float32Array(LONG), new Float32Array(LONG)] as const;
  private readonly tail = [new Float32Array(LONG), new Float32Array(LONG)] as const;
  private readonly nextTail = [new Float32Array(LONG), new Float32Array(LONG)] as const;
  private readonly longOverlap = [new Float32Array(LONG), new Float32Array(LONG)] as const;
  private readonly cut: Cut = { start: 0, frames: 0, rise: 0, fade: 0, reversed: false, stretch: 1 };
  private ready = 0;
  private step = 0;
  private shortTurn = 0;
  private longTurn = 0;

  constructor(
    kernels: Kernels,
    private readonly channels: readonly [Float32Array, Float32Array],
    /** As many frames of it as can be heard at the most. */
    length: number,
  ) {
    this.kernels = kernels.twin(bytesFor(length));
    const memory = new KernelMemory(this.kernels);
    this.longMost = Math.max(0, Math.ceil((length - TAIL) / LONG));
    const both = (count: number) => [memory.floats(count), memory.floats(count)];
    this.heads = both(SHORT);
    this.recents = both(2 * SHORT);
    this.straights = both(SHORT);
    const room = (size: number, count: number): Partitions => {
      const stride = (size / 2 + 4) * 4;
      const spectra = (n: number) => memory.floats(n * stride);
      const turns = memory.floats(6 * (size / 4));
      return { size, stride, turns, impulse: spectra(count), past: spectra(count), sum: spectra(1) };
    };
    this.short = room(2 * SHORT, SHORTS);
    this.long = room(2 * LONG, this.longMost);
    const parts = () => memory.floats(2 * LONG + 4);
    this.re = parts();
    this.im = parts();
    this.workRe = parts();
    this.workIm = parts();
    // The memory grows no more from here on.
    this.f32 = new Float32Array(this.kernels.memory.buffer);
    for (const { turns, size } of [this.short, this.long]) this.f32.set(turnsOf(size), turns / 4);
  }

  /** From now on it is to be this part of the impulse; call `prepare` until it is. It has heard nothing then. */
  aim(cut: Cut): void {
    const { frames } = cut;
    this.cut.start = cut.start;
    this.cut.frames = frames;
    this.cut.rise = cut.rise;
    this.cut.fade = cut.fade;
    this.cut.reversed = cut.reversed;
    this.cut.stretch = cut.stretch;
    this.longCount = Math.min(this.longMost, Math.max(0, Math.ceil((frames - TAIL) / LONG)));
    this.ready = 0;
    for (let c = 0; c < 2; c++) {
      const head = (this.heads[c] as number) / 4;
      for (let i = 0; i < SHORT; i++) this.f32[head + i] = this.valueAt(c, SHORT - 1 - i);
    }
    this.start();
  }

  /** Frames of what is heard of it. */
  get frames(): number {
    return this.cut.frames;
  }

  is({ start, frames, rise, fade, reversed, stretch }: Cut): boolean {
    const { cut } = this;
    return (
      start === cut.start &&
      frames === cut.frames &&
      rise === cut.rise &&
      fade === cut.fade &&
      reversed === cut.reversed &&
      stretch === cut.stretch
    );
  }

  /** The impulse as it is heard. */
  private valueAt(channel: number, at: number): number {
    const { start, frames, rise, fade, reversed, stretch } = this.cut;
    if (at >= frames) return 0;
    // What sounds longer is softer, so that the room stays about as loud.
    const position = start + (reversed ? frames - 1 - at : at) / stretch;
    let value = between(this.channels[channel] as Float32Array, position, 1 / stretch) / Math.sqrt(stretch);
    if (at < rise) value *= 0.5 - 0.5 * Math.cos((Math.PI * (at + 0.5)) / rise);
    const left = frames - at;
    return left > fade ? value : value * (0.5 - 0.5 * Math.cos((Math.PI * (left - 0.5)) / fade));
  }

  /** Transforms a few more partitions; true once all are there. */
  prepare(): boolean {
    for (let n = 0; n < READY && this.ready < SHORTS + this.longCount; n++) {
      const late = this.ready - SHORTS;
      const parts = late < 0 ? this.short : this.long;
      const half = parts.size / 2;
      const at = late < 0 ? (this.ready + 1) * SHORT : TAIL + late * LONG;
      const [re, im] = [this.re / 4, this.im / 4];
      // What comes back from both transforms is so many times as loud.
      for (let i = 0; i < half; i++) {
        this.f32[re + i] = this.valueAt(0, at + i) / parts.size;
        this.f32[im + i] = this.valueAt(1, at + i) / parts.size;
      }
      this.transform(parts);
      const place = (late < 0 ? this.ready : late) * parts.stride;
      this.f32.fill(0, parts.past / 4 + place, parts.past / 4 + place + parts.stride);
      this.kernels.spread(this.re, this.im, parts.impulse + place * 4, parts.size);
      this.ready++;
      if (late >= 0) break;
    }
    return this.ready >= SHORTS + this.longCount;
  }

  /** Transforms what stands in the first half of both parts. */
  private transform({ size, turns }: Partitions): void {
    const { f32, re, im } = this;
    f32.fill(0, re / 4 + size / 2, re / 4 + size);
    f32.fill(0, im / 4 + size / 2, im / 4 + size);
    this.kernels.fourier(re, im, this.workRe, this.workIm, turns, size);
  }

  /** Leads a sum of spectra back to the sound of both channels, in `re` and `im`; the sum is empty afterwards. */
  private back({ size, turns, sum }: Partitions): void {
    this.kernels.gather(this.re, this.im, sum, size);
    this.kernels.fourier(this.im, this.re, this.workIm, this.workRe, turns, size);
  }

  /** Forgets what has gone in; the impulse stays. */
  forget(): void {
    const { f32, short, long } = this;
    f32.fill(0, short.past / 4, short.past / 4 + SHORTS * short.stride);
    f32.fill(0, long.past / 4, long.past / 4 + this.longCount * long.stride);
    this.start();
  }

  /** Stands at its beginning, but for what the partitions have heard. */
  private start(): void {
    const { f32 } = this;
    for (let c = 0; c < 2; c++) {
      const recent = (this.recents[c] as number) / 4;
      f32.fill(0, recent, recent + 2 * SHORT);
      this.coming[c]?.fill(0);
      this.overlap[c]?.fill(0);
      this.longInput[c]?.fill(0);
      this.longWhole[c]?.fill(0);
      this.tail[c]?.fill(0);
      this.nextTail[c]?.fill(0);
      this.longOverlap[c]?.fill(0);
    }
    for (const { sum, stride } of [this.short, this.long]) f32.fill(0, sum / 4, sum / 4 + stride);
    this.step = 0;
    this.shortTurn = 0;
    this.longTurn = 0;
  }

  /**
   * Takes `run` frames of a channel from a place in a ring of past sound, as the frames from `at` on of the block (0 to 128). `weights` (0 to 1; null: all of it):
   * of each frame `offset + slope · weight` is taken, between nothing and all.
   */
  take(
    channel: number,
    at: number,
    line: Float32Array,
    from: number,
    run: number,
    weights: Float64Array | null,
    offset: number,
    slope: number,
  ): void {
    const { f32 } = this;
    const recent = (this.recents[channel] as number) / 4 + SHORT + at;
    const first = Math.min(run, line.length - from);
    for (let k = 0; k < first; k++) f32[recent + k] = line[from + k] as number;
    for (let k = first; k < run; k++) f32[recent + k] = line[from + k - line.length] as number;
    if (!weights) return;
    for (let k = 0; k < run; k++) {
      const weight = Math.max(0, Math.min(1, offset + slope * (weights[k] as number)));
      f32[recent + k] = (f32[recent + k] as number) * weight;
    }
  }

  /** Writes what it gives for the frames that were taken, `run` from `at` on, into the first places of `out`. */
  give(channel: number, at: number, run: number, out: Float32Array): void {
    const { f32 } = this;
    const straight = this.straights[channel] as number;
    const coming = this.coming[channel] as Float32Array;
    this.kernels.direct(straight, this.heads[channel] as number, (this.recents[channel] as number) + (at + 1) * 4, run);
    for (let k = 0; k < run; k++) out[k] = (coming[at + k] as number) + (f32[straight / 4 + k] as number);
  }

  /** At the end of a block: what it and those before it give to the next. */
  endBlock(): void {
    if (this.longCount > 0) this.longPart();
    this.shortPart();
    this.step = (this.step + 1) % STEPS;
    if (this.step === 0 && this.longCount > 0) this.longTurn = (this.longTurn + 1) % this.longCount;
  }

  private shortPart(): void {
    const { f32, short, kernels } = this;
    const [re, im] = [this.re / 4, this.im / 4];
    const [left, right] = [(this.recents[0] as number) / 4, (this.recents[1] as number) / 4];
    this.shortTurn = (this.shortTurn + 1) % SHORTS;
    f32.copyWithin(re, left + SHORT, left + 2 * SHORT);
    f32.copyWithin(im, right + SHORT, right + 2 * SHORT);
    f32.copyWithin(left, left + SHORT, left + 2 * SHORT);
    f32.copyWithin(right, right + SHORT, right + 2 * SHORT);
    this.transform(short);
    kernels.spread(this.re, this.im, short.past + this.shortTurn * short.stride * 4, short.size);
    kernels.multiplyParts(short.sum, short.past, short.impulse, this.shortTurn, SHORTS, 0, SHORTS, short.stride);
    this.back(short);
    const from = ((this.step + 1) % STEPS) * SHORT;
    for (let c = 0; c < 2; c++) {
      const part = c === 0 ? re : im;
      const coming = this.coming[c] as Float32Array;
      const overlap = this.overlap[c] as Float32Array;
      const tail = this.tail[c] as Float32Array;
      for (let i = 0; i < SHORT; i++) {
        coming[i] = (f32[part + i] as number) + (overlap[i] as number) + (tail[from + i] as number);
        overlap[i] = f32[part + SHORT + i] as number;
      }
    }
  }

  /** One step of the long partitions' work: the transform of the long block before, its products little by little, the way back. */
  private longPart(): void {
    const { step, long, longTurn, f32, longCount: count, kernels } = this;
    const [re, im] = [this.re / 4, this.im / 4];
    for (let c = 0; c < 2; c++) {
      const recent = (this.recents[c] as number) / 4 + SHORT;
      const input = this.longInput[c] as Float32Array;
      for (let i = 0; i < SHORT; i++) input[step * SHORT + i] = f32[recent + i] as number;
    }
    if (step === 0) {
      f32.set(this.longWhole[0], re);
      f32.set(this.longWhole[1], im);
      this.transform(long);
      kernels.spread(this.re, this.im, long.past + longTurn * long.stride * 4, long.size);
    } else if (step < STEPS - 1) {
      const parts = STEPS - 2;
      const from = Math.floor(((step - 1) * count) / parts);
      const to = Math.floor((step * count) / parts);
      kernels.multiplyParts(long.sum, long.past, long.impulse, longTurn, count, from, to, long.stride);
    } else {
      this.back(long);
      for (let c = 0; c < 2; c++) {
        const part = c === 0 ? re : im;
        const next = this.nextTail[c] as Float32Array;
        const overlap = this.longOverlap[c] as Float32Array;
        for (let i = 0; i < LONG; i++) {
          next[i] = (f32[part + i] as number) + (overlap[i] as number);
          overlap[i] = f32[part + LONG + i] as number;
        }
        this.tail[c]?.set(next);
        this.longWhole[c]?.set(this.longInput[c] as Float32Array);
      }
    }
  }
}
