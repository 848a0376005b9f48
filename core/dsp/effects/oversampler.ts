import { KernelMemory } from "../kernel-memory";
import type { Kernels } from "../kernels/kernels";

/** How many values there are for each frame in between. */
export const OVERSAMPLING = 6;
/** Length of the filter in frames. */
const LENGTH = 24;
const TAPS = LENGTH * OVERSAMPLING;
/** The same with nothing behind it, for whole vectors. */
const TAPS_DOWN = (TAPS + 4) & ~3;
/** Frames that are worked on at once. */
export const STRETCH = 128;
/** Middle of the filter's slope, in cycles per frame: it passes 0.42 and stops what would fold back below that. */
const CUTOFF = 0.5;
/** Memory of one. */
const BYTES = 65536;
/** Shape of the Kaiser window for 90 dB (Kaiser, 1974). */
const BETA = 9;

function bessel0(x: number): number {
  let sum = 1;
  let term = 1;
  for (let k = 1; term > sum * 1e-17; k++) {
    term *= (x * x) / (4 * k * k);
    sum += term;
  }
  return sum;
}

/** A low pass of linear phase, TAPS + 1 long, with a sum of 1. */
function makeTaps(): Float64Array {
  const taps = new Float64Array(TAPS + 1);
  let sum = 0;
  for (let i = 0; i <= TAPS; i++) {
    const t = (i - TAPS / 2) / OVERSAMPLING;
    const edge = (2 * i) / TAPS - 1;
    const sinc = t === 0 ? 2 * CUTOFF : Math.sin(2 * Math.PI * CUTOFF * t) / (Math.PI * t);
    taps[i] = (sinc * bessel0(BETA * Math.sqrt(Math.max(0, 1 - edge * edge)))) / bessel0(BETA);
    sum += taps[i] as number;
  }
  for (let i = 0; i <= TAPS; i++) taps[i] = (taps[i] as number) / sum;
  return taps;
}

/** By how many frames what goes up and down again is late. */
export const OVERSAMPLING_DELAY = LENGTH;

/**
 * One channel at six times its rate and back, by a polyphase filter of linear phase (Crochiere and Rabiner, 1983): for what bends a wave, so that
 * what this adds above half the rate doesn't fold back. In a memory of its own.
 */
export class Oversampler {
  private readonly kernels: Kernels;
  private readonly f32: Float32Array;
  /** Places (floats): the taps both ways, the frames before and those of a stretch, the values before and those of a stretch, what comes out. */
  private readonly up: number;
  private readonly down: number;
  private readonly input: number;
  private readonly bent: number;
  private readonly out: number;

  constructor(kernels: Kernels) {
    this.kernels = kernels.twin(BYTES);
    const memory = new KernelMemory(this.kernels);
    const place = (count: number) => memory.floats(count) / 4;
    this.up = place((LENGTH + 1) * 8);
    this.down = place(TAPS_DOWN);
    this.input = place(LENGTH + STRETCH);
    this.bent = place(TAPS + OVERSAMPLING * STRETCH + 4);
    this.out = place(STRETCH);
    this.f32 = new Float32Array(this.kernels.memory.buffer);
    const taps = makeTaps();
    for (let k = 0; k <= LENGTH; k++) {
      for (let p = 0; p < OVERSAMPLING; p++)
        this.f32[this.up + k * 8 + p] = OVERSAMPLING * (taps[p + k * OVERSAMPLING] ?? 0);
    }
    // The filter is the same from both ends.
    this.f32.set(taps, this.down);
  }

  /** Where a stretch's values stand, from `begin` until `end`: six for each frame. */
  get values(): Float32Array {
    return this.f32;
  }
  get first(): number {
    return this.bent + TAPS;
  }

  /** Takes `count` frames (at most STRETCH) of a channel; their values stand in `values` from `first` on, to be bent there. */
  begin(x: Float32Array, from: number, count: number): void {
    const { f32, input } = this;
    for (let i = 0; i < count; i++) f32[input + LENGTH + i] = x[from + i] as number;
    this.kernels.oversampleUp(input * 4, this.first * 4, this.up * 4, LENGTH, count);
    f32.copyWithin(input, input + count, input + count + LENGTH);
  }

  /** Writes the frames that were taken, with their values as they have become. */
  end(x: Float32Array, from: number, count: number): void {
    const { f32, bent, out } = this;
    this.kernels.oversampleDown(bent * 4, out * 4, this.down * 4, TAPS_DOWN, count);
    for (let i = 0; i < count; i++) x[from + i] = f32[out + i] as number;
    f32.copyWithin(bent, bent + count * OVERSAMPLING, bent + count * OVERSAMPLING + TAPS);
  }

  reset(): void {
    this.f32.fill(0, this.input, this.input + LENGTH);
    this.f32.fill(0, this.bent, this.bent + TAPS);
  }
}
