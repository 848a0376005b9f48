import { type Audio, framesOf, type Hertz } from "../audio";
import { FLOAT32, INT16, INT24, MOST_TAPS } from "../dsp";

/** Silent frames kept on either side of every stretch, so that no kernel reads outside it. */
export const PAD = MOST_TAPS / 2 + 8;

/** How samples may be held: exactly in the fewest bits, as 32-bit floats, or rounded to 16 bits. */
export type Holding = "asRecorded" | "float32" | "int16";

/** How a sample lies in memory. */
export interface SampleLayout {
  /** How it was asked to be held. */
  readonly holding: Holding;
  readonly format: number;
  readonly frames: number;
  readonly stereo: boolean;
  readonly rate: Hertz;
}

/** A sample as the kernels read it, ready to be copied into their memory wherever there is room. */
export interface PackedSample extends SampleLayout {
  readonly bytes: Uint8Array<ArrayBuffer>;
}

/** A sample in the kernels' memory: addresses of frame 0 of each plane. */
export interface StoredSample extends SampleLayout {
  readonly at: number;
  readonly left: number;
  readonly right: number;
  readonly leftLow: number;
  readonly rightLow: number;
  /** Paths that read it: while there are any, its memory isn't given back. */
  readers: number;
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

/** Packs a sound's first two channels, as small as the holding allows; null where there is nothing in it. It takes long: not for the audio thread. */
export function packSample(audio: Audio, holding: Holding): PackedSample | null {
  if (framesOf(audio) === 0) return null;
  const pack = <T>(format: number, copy: (x: Float32Array, out: T, low: Uint8Array) => boolean) =>
    packAs(audio, holding, format, copy as Copy);
  if (holding === "int16") return pack(INT16, copyRounded);
  const exact = holding === "asRecorded" ? (pack(INT16, copyExact) ?? pack(INT24, copySplit)) : null;
  return exact ?? pack(FLOAT32, copyFloats);
}

type Copy = (x: Float32Array, out: unknown, low: Uint8Array) => boolean;

/** Packs by `copy` in a format; null where a value doesn't fit. */
function packAs(audio: Audio, holding: Holding, format: number, copy: Copy): PackedSample | null {
  const channels = audio.channels.slice(0, 2);
  const frames = framesOf(audio);
  const layout: SampleLayout = { holding, format, frames, stereo: channels.length > 1, rate: audio.rate };
  const bytes = new Uint8Array(bytesOf(layout));
  const { left, right, leftLow, rightLow } = storedAt(layout, 0);
  const View = format === FLOAT32 ? Float32Array : Int16Array;
  for (const [c, x] of channels.entries()) {
    const out = new View(bytes.buffer, c === 0 ? left : right, frames);
    const low = new Uint8Array(bytes.buffer, c === 0 ? leftLow : rightLow, format === INT24 ? frames : 0);
    if (!copy(x, out, low)) return null;
  }
  return { ...layout, bytes };
}

const paddedFrames = (frames: number): number => Math.ceil((frames + 2 * PAD) / 16) * 16;
const wideBytes = ({ format, frames }: SampleLayout): number => paddedFrames(frames) * (format === FLOAT32 ? 4 : 2);
const lowBytes = ({ format, frames }: SampleLayout): number => (format === INT24 ? paddedFrames(frames) : 0);

/** Bytes that a sample takes. */
export const bytesOf = (layout: SampleLayout): number =>
  (wideBytes(layout) + lowBytes(layout)) * (layout.stereo ? 2 : 1);

/** A sample whose bytes begin at an address. */
export function storedAt(layout: SampleLayout, at: number): StoredSample {
  const { holding, format, frames, stereo, rate } = layout;
  const wide = wideBytes(layout);
  const low = lowBytes(layout);
  const left = at + PAD * (format === FLOAT32 ? 4 : 2);
  const leftLow = low > 0 ? at + wide * (stereo ? 2 : 1) + PAD : 0;
  const right = stereo ? left + wide : left;
  const rightLow = stereo ? leftLow + low : leftLow;
  return { holding, format, frames, stereo, rate, at, left, right, leftLow, rightLow, readers: 0 };
}

/** Reads single frames of a channel, for computing seams; frames outside are 0. */
export type FrameReader = (frame: number) => number;

export function frameReader(buffer: ArrayBuffer, sample: StoredSample, right: boolean): FrameReader {
  const from = right ? sample.right : sample.left;
  const { frames } = sample;
  if (sample.format === FLOAT32) {
    const x = new Float32Array(buffer, from, frames);
    return (i) => x[i] ?? 0;
  }
  const high = new Int16Array(buffer, from, frames);
  if (sample.format === INT16) return (i) => (high[i] ?? 0) / FULL_16;
  const low = new Uint8Array(buffer, right ? sample.rightLow : sample.leftLow, frames);
  return (i) => ((high[i] ?? 0) * 256 + (low[i] ?? 0)) / FULL_24;
}
