import { md5 } from "@noble/hashes/legacy.js";
import { strToU8 } from "fflate";
import { type Audio, framesOf } from "../audio";
import { BitWriter } from "./bit-writer";
import { planSubframe, type Subframe } from "./flac-subframe";
import { quantiseChannels } from "./quantise";
import { extraChunks, type SoundExtras } from "./riff-write";
import { wavHead } from "./wav-write";

const BLOCK = 4096;

/** Remainders of all bytes by a polynomial of 8 or 16 bits. */
function crcTable(polynomial: number, width: 8 | 16): Uint16Array {
  const top = 1 << (width - 1);
  const mask = 2 ** width - 1;
  return Uint16Array.from({ length: 256 }, (_, byte) => {
    let sum = byte << (width - 8);
    for (let b = 0; b < 8; b++) sum = (sum & top ? (sum << 1) ^ polynomial : sum << 1) & mask;
    return sum;
  });
}
const CRC8 = crcTable(0x07, 8);
const CRC16 = crcTable(0x8005, 16);

function crc8(bytes: Uint8Array, from: number, to: number): number {
  let sum = 0;
  for (let i = from; i < to; i++) sum = CRC8[sum ^ (bytes[i] as number)] as number;
  return sum;
}

function crc16(bytes: Uint8Array, from: number, to: number): number {
  let sum = 0;
  for (let i = from; i < to; i++) sum = ((sum << 8) & 0xffff) ^ (CRC16[(sum >> 8) ^ (bytes[i] as number)] as number);
  return sum;
}

/** The subframes of a block and how their channels are meant: as they are, or for two of them what they share and differ by. */
function planFrame(planes: readonly Int32Array[], from: number, to: number, depth: number): [number, ...Subframe[]] {
  const blocks = planes.map((plane) => plane.subarray(from, to));
  const apart = blocks.map((block) => planSubframe(block, depth));
  const [left, right] = apart;
  const [l, r] = blocks;
  if (apart.length !== 2 || !left || !right || !l || !r) return [apart.length - 1, ...apart];
  const side = planSubframe(
    l.map((v, i) => v - (r[i] as number)),
    depth + 1,
  );
  const mid = planSubframe(
    l.map((v, i) => (v + (r[i] as number)) >> 1),
    depth,
  );
  const ways: [number, Subframe, Subframe][] = [
    [1, left, right],
    [8, left, side],
    [9, side, right],
    [10, mid, side],
  ];
  return ways.reduce((best, way) => (way[1].bits + way[2].bits < best[1].bits + best[2].bits ? way : best));
}

/** A frame's number as UTF-8 would write it. */
function writeNumber(out: BitWriter, n: number): void {
  if (n < 0x80) {
    out.write(n, 8);
    return;
  }
  const more = n < 0x800 ? 1 : n < 0x10000 ? 2 : n < 0x200000 ? 3 : n < 0x4000000 ? 4 : 5;
  const head = (0xff << (7 - more)) & 0xff;
  out.write(head | Math.floor(n / 64 ** more), 8);
  for (let k = more - 1; k >= 0; k--) out.write(0x80 | (Math.floor(n / 64 ** k) & 63), 8);
}

/** The blocks of what a file says beside its audio: the chunks of a WAV file, as other programs keep them, and its description. */
function extraBlocks(
  rate: number,
  channels: number,
  depth: 16 | 24,
  frames: number,
  extras: SoundExtras,
): Uint8Array[] {
  const chunks = extraChunks(rate, extras);
  if (chunks.length === 0) return [];
  const bytes = (frames * channels * depth) / 8;
  const [riff, format, data] = foreignHeads(rate, channels, depth, frames, chunks);
  const foreign = [riff, format, ...chunks, data].map((c) => block(2, [strToU8("riff"), c]));
  const words = strToU8(`DESCRIPTION=${extras.broadcast?.description ?? ""}`);
  const vendor = strToU8("Vise");
  const number = (n: number): Uint8Array => Uint8Array.of(n & 255, (n >> 8) & 255, (n >> 16) & 255, (n >> 24) & 255);
  const comment = extras.broadcast?.description
    ? [block(4, [number(vendor.length), vendor, number(1), number(words.length), words])]
    : [];
  return bytes > 0xffff0000 ? comment : [...foreign, ...comment];
}

/** A block of metadata of a type; whether it is the last is written by who puts it in. */
function block(type: number, parts: readonly Uint8Array[]): Uint8Array {
  const length = parts.reduce((sum, p) => sum + p.length, 0);
  const out = new Uint8Array(4 + length);
  out.set([type, (length >> 16) & 255, (length >> 8) & 255, length & 255]);
  let at = 4;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

/** Heads of the WAV file that a FLAC file stands for: of the whole, its format, and of its audio. */
function foreignHeads(
  rate: number,
  channels: number,
  depth: 16 | 24,
  frames: number,
  chunks: readonly Uint8Array[],
): [Uint8Array, Uint8Array, Uint8Array] {
  const whole = wavHead(rate, channels, depth, frames);
  const riff = whole.slice(0, 12);
  const format = whole.slice(12, whole.length - 8);
  const data = whole.slice(whole.length - 8);
  const size = new DataView(whole.buffer).getUint32(4, true) + chunks.reduce((sum, c) => sum + c.length, 0);
  new DataView(riff.buffer).setUint32(4, size, true);
  return [riff, format, data];
}

/**
 * A FLAC file (RFC 9639) of the audio in 16 or 24 bits, compressed without loss by linear prediction and Rice codes; 16 bits are
 * dithered as in WAV files. `seed` makes the dither repeatable. Root, loop, markers and broadcast data are kept as the chunks of a WAV file.
 */
export function writeFlac(
  audio: Audio,
  depth: 16 | 24 = 24,
  seed = 1,
  extras: SoundExtras = {},
): Uint8Array<ArrayBuffer> {
  const frames = framesOf(audio);
  const planes = quantiseChannels(audio, depth, seed);
  const channels = planes.length;
  if (frames === 0 || channels === 0) throw new RangeError("a FLAC file holds at least one frame of one channel");
  const out = new BitWriter();
  const blocks = extraBlocks(audio.rate, channels, depth, frames, extras);
  out.write(0x664c6143, 32);
  out.write(blocks.length > 0 ? 0 : 0x80, 8);
  out.write(34, 24);
  out.write(Math.min(BLOCK, Math.max(16, frames)), 16);
  out.write(Math.min(BLOCK, Math.max(16, frames)), 16);
  out.write(0, 48);
  out.write(Math.round(audio.rate), 20);
  out.write(channels - 1, 3);
  out.write(depth - 1, 5);
  out.write(frames, 36);
  const raw = new Uint8Array(frames * channels * (depth / 8));
  for (let i = 0, at = 0; i < frames; i++)
    for (const plane of planes) for (let b = 0; b < depth; b += 8) raw[at++] = ((plane[i] as number) >> b) & 255;
  for (const byte of md5(raw)) out.write(byte, 8);
  blocks.forEach((bytes, i) => {
    const last = i === blocks.length - 1 ? 0x80 : 0;
    bytes.forEach((byte, k) => {
      out.write(k === 0 ? byte | last : byte, 8);
    });
  });
  for (let number = 0, from = 0; from < frames; number++, from += BLOCK) {
    const size = Math.min(BLOCK, frames - from);
    const [channelsMeant, ...subframes] = planFrame(planes, from, from + size, depth);
    const began = out.length;
    out.write(0xfff8, 16);
    out.write(size === BLOCK ? 12 : 7, 4);
    out.write(0, 4);
    out.write(channelsMeant, 4);
    out.write(depth === 16 ? 4 : 6, 3);
    out.write(0, 1);
    writeNumber(out, number);
    if (size !== BLOCK) out.write(size - 1, 16);
    out.write(crc8(out.bytes, began, out.length), 8);
    for (const subframe of subframes) subframe.write(out);
    out.align();
    out.write(crc16(out.bytes, began, out.length), 16);
  }
  return out.bytes.slice(0, out.length);
}
