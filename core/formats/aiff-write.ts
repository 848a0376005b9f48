import { strToU8 } from "fflate";
import { type Audio, framesOf } from "../audio";
import { quantise } from "./quantise";
import type { SoundExtras } from "./riff-write";

/** Places of a loop's ends among the markers. */
const LOOP_FROM = 1;
const LOOP_TO = 2;
/** Longest name that a marker can have. */
const MOST_NAME = 254;

function chunk(tag: string, length: number, fill: (view: DataView) => void): Uint8Array {
  const bytes = new Uint8Array(8 + length + (length & 1));
  for (let i = 0; i < 4; i++) bytes[i] = tag.charCodeAt(i);
  new DataView(bytes.buffer).setUint32(4, length);
  fill(new DataView(bytes.buffer, 8));
  return bytes;
}

/** A whole number above 0 as an 80-bit float. */
function putExtended(view: DataView, at: number, value: number): void {
  const exponent = Math.floor(Math.log2(value));
  view.setUint16(at, 16383 + exponent);
  view.setBigUint64(at + 2, BigInt(Math.round(value * 2 ** (52 - exponent))) << 11n);
}

interface Mark {
  readonly id: number;
  readonly at: number;
  readonly name: Uint8Array;
}

function markChunk(marks: readonly Mark[]): Uint8Array {
  // Names are counted text, padded so that count and text together are even.
  const sizes = marks.map((m) => 7 + m.name.length + ((m.name.length + 1) & 1));
  return chunk("MARK", 2 + sizes.reduce((a, b) => a + b, 0), (view) => {
    view.setUint16(0, marks.length);
    let at = 2;
    marks.forEach((mark, i) => {
      view.setUint16(at, mark.id);
      view.setUint32(at + 2, mark.at);
      view.setUint8(at + 6, mark.name.length);
      new Uint8Array(view.buffer, view.byteOffset + at + 7).set(mark.name);
      at += sizes[i] ?? 0;
    });
  });
}

function instChunk({ sampler, instrument }: SoundExtras, looped: boolean): Uint8Array {
  const pitch = sampler ? sampler.root + sampler.fine / 100 : (instrument?.root ?? 60) - (instrument?.fine ?? 0) / 100;
  const root = Math.max(0, Math.min(127, Math.round(pitch)));
  return chunk("INST", 20, (view) => {
    const { gain = 0, keyLow = 0, keyHigh = 127, velLow = 1, velHigh = 127 } = instrument ?? {};
    const detune = Math.max(-50, Math.min(50, Math.round((root - pitch) * 100)));
    [root, detune, keyLow, keyHigh, velLow, velHigh].forEach((x, i) => {
      view.setInt8(i, x);
    });
    view.setInt16(6, Math.round(gain));
    if (!looped) return;
    view.setUint16(8, sampler?.loop?.mode === "alternating" ? 2 : 1);
    view.setUint16(10, LOOP_FROM);
    view.setUint16(12, LOOP_TO);
  });
}

function soundChunk(audio: Audio, depth: 16 | 24): Uint8Array {
  const frames = framesOf(audio);
  const channels = audio.channels.length;
  const width = depth / 8;
  return chunk("SSND", 8 + frames * channels * width, (view) => {
    let at = 8;
    for (let i = 0; i < frames; i++) {
      for (const channel of audio.channels) {
        const q = quantise(channel[i] ?? 0, 2 ** (depth - 1));
        if (depth === 24) {
          view.setInt16(at, q >> 8);
          view.setUint8(at + 2, q & 255);
        } else view.setInt16(at, q);
        at += width;
      }
    }
  });
}

/**
 * An AIFF file (Apple, "Audio Interchange File Format", 1989) of the audio in 16 or 24 bits, with markers, base note, ranges and a loop. A backward loop
 * is written as a forward one: the format has none.
 */
export function writeAiff(audio: Audio, depth: 16 | 24 = 24, extras: SoundExtras = {}): Uint8Array<ArrayBuffer> {
  const frames = framesOf(audio);
  const channels = audio.channels.length;
  const { sampler, instrument, broadcast, markers = [] } = extras;
  const loop = sampler?.loop ?? null;
  const ends = loop
    ? [
        { id: LOOP_FROM, at: loop.start, name: strToU8("loop start") },
        { id: LOOP_TO, at: loop.end, name: strToU8("loop end") },
      ]
    : [];
  const marks: Mark[] = [
    ...ends,
    ...markers.map((m, i) => ({ id: LOOP_TO + 1 + i, at: m.at, name: strToU8(m.name).slice(0, MOST_NAME) })),
  ].slice(0, 65535);
  const common = chunk("COMM", 18, (view) => {
    view.setUint16(0, channels);
    view.setUint32(2, frames);
    view.setUint16(6, depth);
    putExtended(view, 8, audio.rate);
  });
  const words = strToU8(broadcast?.description ?? "");
  const chunks = [
    common,
    ...(marks.length > 0 ? [markChunk(marks)] : []),
    ...(sampler || instrument ? [instChunk(extras, loop !== null)] : []),
    ...(words.length > 0 ? [chunk("ANNO", words.length, (view) => new Uint8Array(view.buffer, 8).set(words))] : []),
    soundChunk(audio, depth),
  ];
  const total = chunks.reduce((sum, c) => sum + c.length, 12);
  const out = new Uint8Array(total);
  out.set(strToU8("FORM"), 0);
  new DataView(out.buffer).setUint32(4, total - 8);
  out.set(strToU8("AIFF"), 8);
  let at = 12;
  for (const part of chunks) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}
