import { type Audio, framesOf } from "../audio";
import { quantise, quantiseChannels } from "./quantise";
import { extraChunks, riffChunk, type SoundExtras } from "./riff-write";

/** How samples are stored: 16 or 24-bit integers, or 32-bit float. */
export type WavDepth = 16 | 24 | 32;

/** What a WAV file says beside its audio, and how that is rounded. */
export interface WavExtras extends SoundExtras {
  /** Whether 16 bits are dithered; values that are whole steps already never are. */
  readonly dither?: boolean;
}

/** Frames as a WAV file's data has them: channel after channel, frame after frame, little-endian. */
export function wavData(audio: Audio, depth: WavDepth, dither = false): Uint8Array<ArrayBuffer> {
  const frames = framesOf(audio);
  const channels = audio.channels.length;
  const width = depth / 8;
  const bytes = new Uint8Array(frames * channels * width);
  fillData(new DataView(bytes.buffer), audio, depth, dither);
  return bytes;
}

/** 24 bits byte by byte, which is far faster than by a view. */
function fill24(view: DataView, channels: readonly Float32Array[]): void {
  const bytes = new Uint8Array(view.buffer, view.byteOffset, view.byteLength);
  const stride = 3 * channels.length;
  channels.forEach((channel, c) => {
    const { length } = channel;
    for (let i = 0, at = 3 * c; i < length; i++, at += stride) {
      const q = quantise(channel[i] as number, 8388608);
      bytes[at] = q;
      bytes[at + 1] = q >> 8;
      bytes[at + 2] = q >> 16;
    }
  });
}

/** 16 bits: of all machines that run this the numbers are little-endian, too. */
function fill16(view: DataView, channels: readonly (Float32Array | Int32Array)[]): void {
  const out = new Int16Array(view.buffer, view.byteOffset, view.byteLength / 2);
  channels.forEach((channel, c) => {
    const { length } = channel;
    // Whole steps already where they were dithered.
    const scale = channel instanceof Float32Array ? 32768 : 1;
    for (let i = 0, at = c; i < length; i++, at += channels.length)
      out[at] = Math.max(-32768, Math.min(32767, Math.floor((channel[i] as number) * scale + 0.5)));
  });
}

function fillFloat(view: DataView, channels: readonly Float32Array[]): void {
  channels.forEach((channel, c) => {
    for (let i = 0, at = 4 * c; i < channel.length; i++, at += 4 * channels.length)
      view.setFloat32(at, channel[i] as number, true);
  });
}

function fillData(view: DataView, audio: Audio, depth: WavDepth, dither: boolean): void {
  const { channels } = audio;
  if (depth === 24) fill24(view, channels);
  else if (depth === 16) fill16(view, dither ? quantiseChannels(audio, 16) : channels);
  else fillFloat(view, channels);
}

/** `fmt `, and for float the `fact` that goes with it: whatever isn't plain PCM has the extended form. */
function formatChunks(rate: number, channels: number, depth: WavDepth, frames: number): Uint8Array[] {
  const width = depth / 8;
  const float = depth === 32;
  const format = riffChunk("fmt ", float ? 18 : 16, (view) => {
    view.setUint16(0, float ? 3 : 1, true);
    view.setUint16(2, channels, true);
    view.setUint32(4, rate, true);
    view.setUint32(8, rate * channels * width, true);
    view.setUint16(12, channels * width, true);
    view.setUint16(14, depth, true);
  });
  return float ? [format, riffChunk("fact", 4, (view) => view.setUint32(0, frames, true))] : [format];
}

/** What stands before the data of a WAV file of so many frames; `wavData` and, after an odd number of bytes, one more make it whole. */
export function wavHead(rate: number, channels: number, depth: WavDepth, frames: number): Uint8Array<ArrayBuffer> {
  const start = riffOf(formatChunks(rate, channels, depth, frames));
  const data = frames * channels * (depth / 8);
  const head = new Uint8Array(start.length + 8);
  head.set(start);
  head.set([0x64, 0x61, 0x74, 0x61], start.length);
  const view = new DataView(head.buffer);
  view.setUint32(start.length + 4, data, true);
  view.setUint32(4, head.length - 8 + data + (data & 1), true);
  return head;
}

/** A RIFF/WAVE file of chunks. */
function riffOf(chunks: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const total = chunks.reduce((sum, p) => sum + p.length, 12);
  const out = new Uint8Array(total);
  out.set([82, 73, 70, 70], 0);
  new DataView(out.buffer).setUint32(4, total - 8, true);
  out.set([87, 65, 86, 69], 8);
  let at = 12;
  for (const chunk of chunks) {
    out.set(chunk, at);
    at += chunk.length;
  }
  return out;
}

/** A RIFF/WAVE file of the audio; values beyond full scale are clipped in integer depths. */
export function writeWav(audio: Audio, depth: WavDepth = 24, extras: WavExtras = {}): Uint8Array<ArrayBuffer> {
  const frames = framesOf(audio);
  const channels = audio.channels.length;
  const data = riffChunk("data", (frames * channels * depth) / 8, (view) =>
    fillData(view, audio, depth, extras.dither === true),
  );
  return riffOf([...formatChunks(audio.rate, channels, depth, frames), ...extraChunks(audio.rate, extras), data]);
}
