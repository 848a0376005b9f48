import { md5 } from "@noble/hashes/legacy.js";
import { type Audio, framesOf } from "../audio";
import { BitWriter } from "./bit-writer";
import { planSubframe, type Subframe } from "./flac-subframe";
import { quantiseChannels } from "./quantise";

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

/**
 * A FLAC file (RFC 9639) of the audio in 16 or 24 bits, compressed without loss by linear prediction and Rice codes; 16 bits are
 * dithered as in WAV files. `seed` makes the dither repeatable.
 */
export function writeFlac(audio: Audio, depth: 16 | 24 = 24, seed = 1): Uint8Array<ArrayBuffer> {
  const frames = framesOf(audio);
  const planes = quantiseChannels(audio, depth, seed);
  const channels = planes.length;
  if (frames === 0 || channels === 0) throw new RangeError("a FLAC file holds at least one frame of one channel");
  const out = new BitWriter();
  out.write(0x664c6143, 32);
  out.write(0x80, 8);
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
