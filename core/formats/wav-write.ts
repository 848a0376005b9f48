import { type Audio, framesOf } from "../audio";
import type { WavSampler } from "./wav-read";

/** How samples are stored: 16 or 24-bit integers, or 32-bit float. */
export type WavDepth = 16 | 24 | 32;

/** A RIFF/WAVE file of the audio; values beyond full scale are clipped in integer depths. `sampler` becomes a `smpl` chunk. */
export function writeWav(
  audio: Audio,
  depth: WavDepth = 24,
  sampler: WavSampler | null = null,
): Uint8Array<ArrayBuffer> {
  const frames = framesOf(audio);
  const channels = audio.channels.length;
  const width = depth / 8;
  const dataBytes = frames * channels * width;
  const smplBytes = sampler ? 36 + (sampler.loop ? 24 : 0) : 0;
  const total = 12 + 24 + 8 + dataBytes + (dataBytes & 1) + (sampler ? 8 + smplBytes : 0);
  const bytes = new Uint8Array(total);
  const view = new DataView(bytes.buffer);
  let at = 0;
  const tag = (text: string) => {
    for (let i = 0; i < 4; i++) bytes[at++] = text.charCodeAt(i);
  };
  const u32 = (x: number) => {
    view.setUint32(at, x, true);
    at += 4;
  };
  const u16 = (x: number) => {
    view.setUint16(at, x, true);
    at += 2;
  };
  tag("RIFF");
  u32(total - 8);
  tag("WAVE");
  tag("fmt ");
  u32(16);
  u16(depth === 32 ? 3 : 1);
  u16(channels);
  u32(audio.rate);
  u32(audio.rate * channels * width);
  u16(channels * width);
  u16(depth);
  if (sampler) {
    tag("smpl");
    u32(smplBytes);
    u32(0);
    u32(0);
    u32(Math.round(1e9 / audio.rate));
    u32(sampler.root);
    u32(Math.min(2 ** 32 - 1, Math.round((sampler.fine / 100) * 2 ** 32)));
    u32(0);
    u32(0);
    u32(sampler.loop ? 1 : 0);
    u32(0);
    if (sampler.loop) {
      u32(0);
      u32(0);
      u32(sampler.loop.start);
      u32(sampler.loop.end - 1);
      u32(0);
      u32(0);
    }
  }
  tag("data");
  u32(dataBytes);
  for (let i = 0; i < frames; i++) {
    for (const channel of audio.channels) {
      const x = channel[i] ?? 0;
      if (depth === 32) view.setFloat32(at, x, true);
      else if (depth === 16) view.setInt16(at, quantise(x, 32768), true);
      else {
        const q = quantise(x, 8388608);
        view.setInt16(at, (q << 16) >> 16, true);
        view.setInt8(at + 2, q >> 16);
      }
      at += width;
    }
  }
  return bytes;
}

function quantise(x: number, scale: number): number {
  const q = Math.round(x * scale);
  return q < -scale ? -scale : q > scale - 1 ? scale - 1 : q;
}
