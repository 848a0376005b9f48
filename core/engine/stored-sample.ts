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

const fits = (channels: readonly Float32Array[], full: number): boolean =>
  channels.every((x) => {
    for (let i = 0; i < x.length; i++) {
      const v = (x[i] as number) * full;
      if (v !== Math.trunc(v) || v < -full || v >= full) return false;
    }
    return true;
  });

function formatOf(channels: readonly Float32Array[], holding: Holding): number {
  if (holding === "half") return INT16;
  if (holding === "float") return FLOAT32;
  return fits(channels, FULL_16) ? INT16 : fits(channels, FULL_24) ? INT24 : FLOAT32;
}

/** Copies a sound's first two channels into the memory. Values that aren't finite become 0. */
export function storeSample(heap: Heap, audio: Audio, holding: Holding): StoredSample {
  const channels = audio.channels.slice(0, 2);
  const frames = framesOf(audio);
  const format = formatOf(channels, holding);
  const padded = Math.ceil((frames + 2 * PAD) / 16) * 16;
  const wide = padded * (format === FLOAT32 ? 4 : 2);
  const low = format === INT24 ? padded : 0;
  const at = heap.allocate((wide + low) * channels.length);
  const bytes = format === FLOAT32 ? 4 : 2;
  new Uint8Array(heap.memory.buffer, at, (wide + low) * channels.length).fill(0);
  channels.forEach((x, c) => {
    const from = at + c * wide;
    if (format === FLOAT32) {
      const out = heap.f32;
      for (let i = 0; i < frames; i++) {
        const v = x[i] as number;
        out[from / 4 + PAD + i] = Number.isFinite(v) ? v : 0;
      }
      return;
    }
    const out = new Int16Array(heap.memory.buffer, from, padded);
    const lows = new Uint8Array(heap.memory.buffer, at + wide * channels.length + c * low, low);
    for (let i = 0; i < frames; i++) {
      const v = Number.isFinite(x[i] as number) ? (x[i] as number) : 0;
      if (format === INT16) out[PAD + i] = Math.max(-FULL_16, Math.min(FULL_16 - 1, Math.round(v * FULL_16)));
      else {
        const whole = Math.round(v * FULL_24);
        out[PAD + i] = whole >> 8;
        lows[PAD + i] = whole & 255;
      }
    }
  });
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

/** One channel as floats, for baking seams; frames outside are 0. */
export function samplesOf(heap: Heap, sample: StoredSample, right: boolean): Float32Array {
  const from = right ? sample.right : sample.left;
  if (sample.format === FLOAT32) return new Float32Array(heap.memory.buffer, from, sample.frames);
  const high = new Int16Array(heap.memory.buffer, from, sample.frames);
  if (sample.format === INT16) return Float32Array.from(high, (v) => v / FULL_16);
  const low = new Uint8Array(heap.memory.buffer, right ? sample.rightLow : sample.leftLow, sample.frames);
  return Float32Array.from(high, (v, i) => (v * 256 + (low[i] as number)) / FULL_24);
}
