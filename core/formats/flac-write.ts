import { md5 } from "@noble/hashes/legacy.js";
import { type Audio, framesOf } from "../audio";
import { quantiseChannels } from "./quantise";

const BLOCK = 4096;
const MOST_RICE = 30;

/** Writes bits into bytes, the highest first; grows as needed. */
class BitWriter {
  bytes = new Uint8Array(65536);
  length = 0;
  private cache = 0;
  private cached = 0;

  write(value: number, count: number): void {
    for (let left = count; left > 0; ) {
      const part = Math.min(left, 8 - this.cached);
      const bits = Math.floor(value / 2 ** (left - part)) & ((1 << part) - 1);
      this.cache = (this.cache << part) | bits;
      this.cached += part;
      left -= part;
      if (this.cached === 8) this.push();
    }
  }

  signed(value: number, count: number): void {
    this.write(value < 0 ? value + 2 ** count : value, count);
  }

  /** A non-negative number: its high part in unary, its low bits as they are (R. F. Rice, 1979). */
  rice(folded: number, bits: number): void {
    for (let zeros = Math.floor(folded / 2 ** bits); zeros > 0; ) {
      const some = Math.min(zeros, 24);
      this.write(0, some);
      zeros -= some;
    }
    this.write(1, 1);
    if (bits > 0) this.write(folded % 2 ** bits, bits);
  }

  align(): void {
    if (this.cached > 0) this.write(0, 8 - this.cached);
  }

  private push(): void {
    if (this.length === this.bytes.length) {
      const more = new Uint8Array(this.bytes.length * 2);
      more.set(this.bytes);
      this.bytes = more;
    }
    this.bytes[this.length++] = this.cache & 255;
    this.cache = 0;
    this.cached = 0;
  }
}

function crc(bytes: Uint8Array, from: number, to: number, polynomial: number, width: 8 | 16): number {
  const top = 1 << (width - 1);
  const mask = 2 ** width - 1;
  let sum = 0;
  for (let i = from; i < to; i++) {
    sum ^= (bytes[i] as number) << (width - 8);
    for (let b = 0; b < 8; b++) sum = sum & top ? ((sum << 1) ^ polynomial) & mask : (sum << 1) & mask;
  }
  return sum;
}

/** Residuals of the fixed predictors of orders 0–4, the order whose residuals are smallest first decided by their sum. */
function bestFixed(x: Int32Array, from: number, size: number): { order: number; residual: Float64Array } {
  let current = Float64Array.from(x.subarray(from, from + size));
  let best = { order: 0, residual: current };
  let least = Number.POSITIVE_INFINITY;
  for (let order = 0; order <= Math.min(4, size - 1); order++) {
    if (order > 0) {
      const next = Float64Array.from(current);
      for (let i = order; i < size; i++) next[i] = (current[i] as number) - (current[i - 1] as number);
      current = next;
    }
    let sum = 0;
    for (let i = order; i < size; i++) sum += Math.abs(current[i] as number);
    if (sum < least) {
      least = sum;
      best = { order, residual: current };
    }
  }
  return best;
}

const fold = (x: number): number => (x >= 0 ? 2 * x : -2 * x - 1);

function writeSubframe(out: BitWriter, x: Int32Array, from: number, size: number, depth: number): void {
  let constant = true;
  for (let i = 1; i < size && constant; i++) constant = x[from + i] === x[from];
  if (constant) {
    out.write(0, 8);
    out.signed(x[from] as number, depth);
    return;
  }
  const { order, residual } = bestFixed(x, from, size);
  out.write((8 + order) << 1, 8);
  for (let i = 0; i < order; i++) out.signed(x[from + i] as number, depth);
  // Up to 16 partitions, each with the Rice parameter that its mean asks for.
  let power = 4;
  while (power > 0 && (size % (1 << power) !== 0 || size >> power <= order)) power--;
  out.write(1, 2);
  out.write(power, 4);
  const part = size >> power;
  for (let p = 0; p < 1 << power; p++) {
    const first = p === 0 ? order : p * part;
    const last = (p + 1) * part;
    let sum = 0;
    for (let i = first; i < last; i++) sum += fold(residual[i] as number);
    const mean = sum / Math.max(1, last - first);
    const rice = Math.min(MOST_RICE, Math.max(0, Math.floor(Math.log2(mean * 0.7 + 1e-9))));
    out.write(rice, 5);
    for (let i = first; i < last; i++) out.rice(fold(residual[i] as number), rice);
  }
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
 * A FLAC file (RFC 9639) of the audio in 16 or 24 bits, compressed without loss by fixed predictors and Rice codes; 16 bits are
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
    const began = out.length;
    out.write(0xfff8, 16);
    out.write(size === BLOCK ? 12 : 7, 4);
    out.write(0, 4);
    out.write(channels - 1, 4);
    out.write(depth === 16 ? 4 : 6, 3);
    out.write(0, 1);
    writeNumber(out, number);
    if (size !== BLOCK) out.write(size - 1, 16);
    out.write(crc(out.bytes, began, out.length, 0x07, 8), 8);
    for (const plane of planes) writeSubframe(out, plane, from, size, depth);
    out.align();
    out.write(crc(out.bytes, began, out.length, 0x8005, 16), 16);
  }
  return out.bytes.slice(0, out.length);
}
