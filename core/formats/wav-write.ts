import { strToU8 } from "fflate";
import { type Audio, framesOf } from "../audio";
import type { Marker } from "../instrument";
import { quantise, quantiseChannels } from "./quantise";
import type { WavInstrument, WavSampler } from "./wav-read";

/** How samples are stored: 16 or 24-bit integers, or 32-bit float. */
export type WavDepth = 16 | 24 | 32;

/** What a WAV file says beside its audio. */
export interface WavExtras {
  readonly sampler?: WavSampler | null;
  readonly instrument?: WavInstrument | null;
  /** Written as `cue ` with their names and lengths in a `LIST adtl`. */
  readonly markers?: readonly Marker[];
  /** Whether 16 bits are dithered; values that are whole steps already never are. */
  readonly dither?: boolean;
}

/** Collects little-endian chunks. */
class Chunks {
  private readonly parts: Uint8Array[] = [];
  add(tag: string, length: number, fill: (view: DataView) => void): void {
    const bytes = new Uint8Array(8 + length + (length & 1));
    for (let i = 0; i < 4; i++) bytes[i] = tag.charCodeAt(i);
    const view = new DataView(bytes.buffer);
    view.setUint32(4, length, true);
    fill(new DataView(bytes.buffer, 8));
    this.parts.push(bytes);
  }
  joined(): Uint8Array<ArrayBuffer> {
    const total = this.parts.reduce((sum, p) => sum + p.length, 12);
    const out = new Uint8Array(total);
    out.set([82, 73, 70, 70], 0);
    new DataView(out.buffer).setUint32(4, total - 8, true);
    out.set([87, 65, 86, 69], 8);
    let at = 12;
    for (const part of this.parts) {
      out.set(part, at);
      at += part.length;
    }
    return out;
  }
}

function addSampler(chunks: Chunks, rate: number, { root, fine, loop }: WavSampler): void {
  chunks.add("smpl", 36 + (loop ? 24 : 0), (view) => {
    const u32 = (at: number, x: number) => view.setUint32(at, x, true);
    u32(8, Math.round(1e9 / rate));
    u32(12, root);
    u32(16, Math.min(2 ** 32 - 1, Math.round((fine / 100) * 2 ** 32)));
    if (!loop) return;
    u32(28, 1);
    u32(44, loop.start);
    u32(48, loop.end - 1);
  });
}

function addInstrument(chunks: Chunks, i: WavInstrument): void {
  chunks.add("inst", 7, (view) => {
    [i.root, i.fine, i.gain, i.keyLow, i.keyHigh, i.velLow, i.velHigh].forEach((x, at) => {
      view.setInt8(at, Math.round(x));
    });
  });
}

function addMarkers(chunks: Chunks, markers: readonly Marker[]): void {
  chunks.add("cue ", 4 + markers.length * 24, (view) => {
    view.setUint32(0, markers.length, true);
    markers.forEach((m, i) => {
      const at = 4 + i * 24;
      view.setUint32(at, i + 1, true);
      view.setUint32(at + 4, m.at, true);
      view.setUint32(at + 8, 0x61746164, true);
      view.setUint32(at + 20, m.at, true);
    });
  });
  const names = markers.map((m) => strToU8(m.name));
  const sizes = markers.map((m, i) => {
    const text = 4 + (names[i]?.length ?? 0) + 1;
    return 8 + text + (text & 1) + (m.length > 0 ? 28 : 0);
  });
  chunks.add("LIST", 4 + sizes.reduce((a, b) => a + b, 0), (view) => {
    const tag = (at: number, text: string) => {
      for (let k = 0; k < 4; k++) view.setUint8(at + k, text.charCodeAt(k));
    };
    tag(0, "adtl");
    let at = 4;
    markers.forEach((m, i) => {
      const name = names[i] ?? new Uint8Array(0);
      tag(at, "labl");
      view.setUint32(at + 4, 4 + name.length + 1, true);
      view.setUint32(at + 8, i + 1, true);
      name.forEach((byte, k) => {
        view.setUint8(at + 12 + k, byte);
      });
      const text = 4 + name.length + 1;
      at += 8 + text + (text & 1);
      if (m.length <= 0) return;
      tag(at, "ltxt");
      view.setUint32(at + 4, 20, true);
      view.setUint32(at + 8, i + 1, true);
      view.setUint32(at + 12, m.length, true);
      tag(at + 16, "rgn ");
      at += 28;
    });
  });
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

function fillData(view: DataView, audio: Audio, depth: WavDepth, dither: boolean): void {
  const frames = framesOf(audio);
  const channels = audio.channels.length;
  const width = depth / 8;
  const dithered = depth === 16 && dither ? quantiseChannels(audio, 16) : null;
  let at = 0;
  for (let i = 0; i < frames; i++) {
    for (let c = 0; c < channels; c++) {
      const x = audio.channels[c]?.[i] ?? 0;
      if (depth === 32) view.setFloat32(at, x, true);
      else if (depth === 16) view.setInt16(at, dithered ? (dithered[c]?.[i] ?? 0) : quantise(x, 32768), true);
      else {
        const q = quantise(x, 8388608);
        view.setInt16(at, (q << 16) >> 16, true);
        view.setInt8(at + 2, q >> 16);
      }
      at += width;
    }
  }
}

/** `fmt `, and for float the `fact` that goes with it: whatever isn't plain PCM has the extended form. */
function addFormat(chunks: Chunks, rate: number, channels: number, depth: WavDepth, frames: number): void {
  const width = depth / 8;
  const float = depth === 32;
  chunks.add("fmt ", float ? 18 : 16, (view) => {
    view.setUint16(0, float ? 3 : 1, true);
    view.setUint16(2, channels, true);
    view.setUint32(4, rate, true);
    view.setUint32(8, rate * channels * width, true);
    view.setUint16(12, channels * width, true);
    view.setUint16(14, depth, true);
  });
  if (float) chunks.add("fact", 4, (view) => view.setUint32(0, frames, true));
}

/** What stands before the data of a WAV file of so many frames; `wavData` and, after an odd number of bytes, one more make it whole. */
export function wavHead(rate: number, channels: number, depth: WavDepth, frames: number): Uint8Array<ArrayBuffer> {
  const chunks = new Chunks();
  addFormat(chunks, rate, channels, depth, frames);
  const start = chunks.joined();
  const data = frames * channels * (depth / 8);
  const head = new Uint8Array(start.length + 8);
  head.set(start);
  head.set([0x64, 0x61, 0x74, 0x61], start.length);
  const view = new DataView(head.buffer);
  view.setUint32(start.length + 4, data, true);
  view.setUint32(4, head.length - 8 + data + (data & 1), true);
  return head;
}

/** A RIFF/WAVE file of the audio; values beyond full scale are clipped in integer depths. */
export function writeWav(audio: Audio, depth: WavDepth = 24, extras: WavExtras = {}): Uint8Array<ArrayBuffer> {
  const frames = framesOf(audio);
  const channels = audio.channels.length;
  const chunks = new Chunks();
  addFormat(chunks, audio.rate, channels, depth, frames);
  if (extras.sampler) addSampler(chunks, audio.rate, extras.sampler);
  if (extras.instrument) addInstrument(chunks, extras.instrument);
  if (extras.markers && extras.markers.length > 0) addMarkers(chunks, extras.markers);
  chunks.add("data", (frames * channels * depth) / 8, (view) => fillData(view, audio, depth, extras.dither === true));
  return chunks.joined();
}
