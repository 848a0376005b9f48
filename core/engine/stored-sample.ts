import { type Audio, framesOf } from "../audio";
import { FLOAT32, INT16, INT24, MOST_TAPS } from "../dsp";
import type { Heap } from "./heap";

/** Silent frames kept on either side of every stretch, so that no kernel reads outside it. */
export const PAD = MOST_TAPS / 2 + 8;

/** How samples may be held: exactly in the fewest bits, as 32-bit floats, or rounded to 16 bits. */
export type Holding = "exact" | "float" | "half";

/** A sample in the kernels' memory: addresses of frame 0 of each plane. */
export interface StoredSample {
  readonly at: number;
  /** How it was asked to be held. */
  readonly holding: Holding;
  readonly format: number;
  readonly left: number;
  readonly right: number;
  readonly leftLow: number;
  readonly rightLow: number;
  readonly frames: number;
  readonly rate: number;
}

const FULL_16 = 32768;
const FULL_24 = 8388608;

/** Copies floats; what isn't finite becomes 0. */
function copyFloats(x: Float32Array, out: Float32Array): true {
  for (let i = 0; i < out.length; i++) {
    const v = x[i] as number;
    // What isn't finite differs from itself when it is taken off.
    out[i] = v - v === 0 ? v : 0;
  }
  return true;
}

/** Copies as 16-bit numbers, exactly; false as soon as a value doesn't fit. */
function copyExact(x: Float32Array, out: Int16Array): boolean {
  const { length } = out;
  for (let i = 0; i < length; i++) {
    const v = (x[i] as number) * FULL_16;
    out[i] = v;
    if (out[i] !== v) return false;
  }
  return true;
}

/** Copies as 24-bit numbers, the upper 16 bits and the lowest 8 apart; false as soon as a value doesn't fit. */
function copySplit(x: Float32Array, out: Int16Array, low: Uint8Array): boolean {
  for (let i = 0; i < out.length; i++) {
    const v = (x[i] as number) * FULL_24;
    const whole = v | 0;
    if (whole !== v || whole < -FULL_24 || whole >= FULL_24) return false;
    out[i] = whole >> 8;
    low[i] = whole & 255;
  }
  return true;
}

/** Copies as 16-bit numbers, rounded; what isn't finite becomes 0. */
function copyRounded(x: Float32Array, out: Int16Array): true {
  for (let i = 0; i < out.length; i++) {
    const v = (x[i] as number) * FULL_16;
    const whole = v < 0 ? (v - 0.5) | 0 : (v + 0.5) | 0;
    out[i] = whole > FULL_16 - 1 ? FULL_16 - 1 : whole < -FULL_16 ? -FULL_16 : whole;
  }
  return true;
}

/** Copies a sound's first two channels into the memory, as small as the holding allows. */
export function storeSample(heap: Heap, audio: Audio, holding: Holding): StoredSample {
  return { ...copySample(heap, audio, holding), holding };
}

type Copied = Omit<StoredSample, "holding">;

function copySample(heap: Heap, audio: Audio, holding: Holding): Copied {
  if (holding === "half") return store(heap, audio, INT16, copyRounded) as Copied;
  if (holding === "exact") {
    const small = store(heap, audio, INT16, copyExact) ?? store(heap, audio, INT24, copySplit);
    if (small) return small;
  }
  return store(heap, audio, FLOAT32, copyFloats) as Copied;
}

type Copy = (x: Float32Array, out: never, low: Uint8Array) => boolean;

/** Copies by `copy` in a format; null, with the memory given back, where a value doesn't fit. */
function store(heap: Heap, audio: Audio, format: number, copy: Copy): Copied | null {
  const channels = audio.channels.slice(0, 2);
  const frames = framesOf(audio);
  const padded = Math.ceil((frames + 2 * PAD) / 16) * 16;
  const bytes = format === FLOAT32 ? 4 : 2;
  const wide = padded * bytes;
  const low = format === INT24 ? padded : 0;
  const at = heap.allocate((wide + low) * channels.length);
  const { buffer } = heap.memory;
  const silence = (from: number, size: number, used: number): void => {
    const all = new Uint8Array(buffer, from, size);
    all.fill(0, 0, PAD * (size / padded));
    all.fill(0, PAD * (size / padded) + used);
  };
  for (const [c, x] of channels.entries()) {
    const from = at + c * wide;
    const lowFrom = at + wide * channels.length + c * low;
    silence(from, wide, frames * bytes);
    if (low > 0) silence(lowFrom, low, frames);
    const View = format === FLOAT32 ? Float32Array : Int16Array;
    const out = new View(buffer, from + PAD * bytes, frames);
    if (copy(x, out as never, new Uint8Array(buffer, low > 0 ? lowFrom + PAD : 0, low > 0 ? frames : 0))) continue;
    heap.release(at);
    return null;
  }
  const left = at + PAD * bytes;
  const leftLow = low > 0 ? at + wide * channels.length + PAD : 0;
  const stereo = channels.length > 1;
  return {
    at,
    format,
    left,
    right: stereo ? left + wide : left,
    leftLow,
    rightLow: stereo ? leftLow + low : leftLow,
    frames,
    rate: audio.rate,
  };
}

/** Reads single frames of a channel, for computing seams; frames outside are 0. */
export type FrameReader = (frame: number) => number;

export function frameReader(heap: Heap, sample: StoredSample, right: boolean): FrameReader {
  const from = right ? sample.right : sample.left;
  const { frames } = sample;
  const { buffer } = heap.memory;
  if (sample.format === FLOAT32) {
    const x = new Float32Array(buffer, from, frames);
    return (i) => x[i] ?? 0;
  }
  const high = new Int16Array(buffer, from, frames);
  if (sample.format === INT16) return (i) => (high[i] ?? 0) / FULL_16;
  const low = new Uint8Array(buffer, right ? sample.rightLow : sample.leftLow, frames);
  return (i) => ((high[i] ?? 0) * 256 + (low[i] ?? 0)) / FULL_24;
}
