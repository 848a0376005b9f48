import { strFromU8 } from "fflate";
import { BitReader } from "./bit-reader";
import { ByteReader } from "./byte-reader";
import { FormatError } from "./format-error";
import { RiffExtrasReader } from "./riff-chunks";
import { type SoundFile, soundInfo } from "./sound-info";

interface Stream {
  rate: number;
  channels: number;
  bits: number;
  frames: number;
}

const BLOCKS = [0, 192, 576, 1152, 2304, 4608, 0, 0, 256, 512, 1024, 2048, 4096, 8192, 16384, 32768];
const RATES = [0, 88200, 176400, 192000, 8000, 16000, 22050, 24000, 32000, 44100, 48000, 96000];
const BITS = [0, 8, 12, 0, 16, 20, 24, 32];

function readStreamInfo(bits: BitReader): Stream {
  bits.unsigned(16);
  bits.unsigned(16);
  bits.unsigned(24);
  bits.unsigned(24);
  const rate = bits.unsigned(20);
  const channels = bits.unsigned(3) + 1;
  const depth = bits.unsigned(5) + 1;
  const frames = bits.unsigned(4) * 2 ** 32 + bits.unsigned(32);
  return { rate, channels, bits: depth, frames };
}

/** Most frames that are decoded, about an hour and a half at 48 kHz: a few bytes may stand for 65,536 frames. */
const MOST_FRAMES = 2 ** 28;
/**
 * Frames that are decoded of any file, however short, and how many a byte may stand for beyond that: silence takes about 14 bytes for 4,096 frames, where
 * a file that is made to fill memory promises ten times as many.
 */
const ANY_FRAMES = 2 ** 22;
const FRAMES_A_BYTE = 512;
const mostFrames = (bytes: number): number => Math.min(MOST_FRAMES, Math.max(ANY_FRAMES, bytes * FRAMES_A_BYTE));

const FIXED = [[], [1], [2, -1], [3, -3, 1], [4, -6, 4, -1]] as const;

function readResidual(bits: BitReader, out: Float64Array, order: number, block: number): void {
  const method = bits.unsigned(2);
  if (method > 1) throw new FormatError("damaged", bits.offset, `its audio is damaged near byte ${bits.offset}`);
  const width = method === 0 ? 4 : 5;
  const unfolded = 2 ** width - 1;
  const partitions = 1 << bits.unsigned(4);
  const size = block / partitions;
  if (!Number.isInteger(size) || size < order)
    throw new FormatError("damaged", bits.offset, `its audio is damaged near byte ${bits.offset}`);
  let at = order;
  for (let p = 0; p < partitions; p++) {
    const rice = bits.unsigned(width);
    const last = (p + 1) * size;
    if (rice === unfolded) {
      const raw = bits.unsigned(5);
      for (; at < last; at++) out[at] = bits.signed(raw);
      continue;
    }
    if (at < last) bits.rice(out, at, last, rice);
    at = last;
  }
}

function predict(out: Float64Array, order: number, block: number, given: readonly number[], shift: number): void {
  const scale = 2 ** shift;
  const weights = new Float64Array(given);
  for (let i = order; i < block; i++) {
    let sum = 0;
    for (let k = 0; k < order; k++) sum += (weights[k] as number) * (out[i - 1 - k] as number);
    out[i] = (out[i] as number) + (shift === 0 ? sum : Math.floor(sum / scale));
  }
}

function readSubframe(bits: BitReader, out: Float64Array, block: number, depth: number): void {
  bits.unsigned(1);
  const type = bits.unsigned(6);
  const wasted = bits.unsigned(1) === 1 ? bits.zeros() + 1 : 0;
  const width = depth - wasted;
  if (width < 1) throw new FormatError("damaged", bits.offset, `its audio is damaged near byte ${bits.offset}`);
  if (type === 0) out.fill(bits.signed(width), 0, block);
  else if (type === 1) for (let i = 0; i < block; i++) out[i] = bits.signed(width);
  else if (type >= 8 && type <= 12) {
    const order = type - 8;
    for (let i = 0; i < order; i++) out[i] = bits.signed(width);
    readResidual(bits, out, order, block);
    predict(out, order, block, FIXED[order] as readonly number[], 0);
  } else if (type >= 32) {
    const order = type - 31;
    for (let i = 0; i < order; i++) out[i] = bits.signed(width);
    const precision = bits.unsigned(4) + 1;
    const shift = bits.signed(5);
    const weights = Array.from({ length: order }, () => bits.signed(precision));
    readResidual(bits, out, order, block);
    predict(out, order, block, weights, shift);
  } else throw new FormatError("unsupported", bits.offset, `its audio is of an unknown kind near byte ${bits.offset}`);
  if (wasted > 0) for (let i = 0; i < block; i++) out[i] = (out[i] as number) * 2 ** wasted;
}

/** Skips a number as UTF-8 writes it. */
function skipNumber(bits: BitReader): void {
  let lead = bits.unsigned(8);
  if (lead < 128) return;
  for (lead = (lead << 1) & 255; lead >= 128; lead = (lead << 1) & 255) bits.unsigned(8);
}

interface Block {
  readonly size: number;
  readonly depth: number;
}

function readFrame(bits: BitReader, stream: Stream, planes: readonly Float64Array[]): Block {
  const at = bits.offset;
  if (bits.unsigned(14) !== 0x3ffe) throw new FormatError("damaged", at, `its audio is damaged at byte ${at}`);
  bits.unsigned(2);
  const blockCode = bits.unsigned(4);
  const rateCode = bits.unsigned(4);
  const layout = bits.unsigned(4);
  const bitsCode = bits.unsigned(3);
  bits.unsigned(1);
  skipNumber(bits);
  const size =
    blockCode === 6 ? bits.unsigned(8) + 1 : blockCode === 7 ? bits.unsigned(16) + 1 : (BLOCKS[blockCode] ?? 0);
  if (rateCode === 12) bits.unsigned(8);
  else if (rateCode > 12) bits.unsigned(16);
  bits.unsigned(8);
  const depth = BITS[bitsCode] || stream.bits;
  const channels = layout < 8 ? layout + 1 : 2;
  if (size === 0 || size > 65536 || layout > 10 || channels !== stream.channels || (RATES[rateCode] ?? 0) > 768000)
    throw new FormatError("damaged", at, `its audio is damaged at byte ${at}`);
  for (let c = 0; c < channels; c++) {
    const side = (layout === 8 && c === 1) || (layout === 9 && c === 0) || (layout === 10 && c === 1);
    readSubframe(bits, planes[c] as Float64Array, size, depth + (side ? 1 : 0));
  }
  const [a, b] = planes as [Float64Array, Float64Array];
  for (let i = 0; i < size && layout >= 8; i++) {
    const [x, y] = [a[i] as number, b[i] as number];
    if (layout === 8) b[i] = x - y;
    else if (layout === 9) a[i] = x + y;
    else {
      const middle = 2 * x + (Math.abs(y) % 2);
      a[i] = (middle + y) / 2;
      b[i] = (middle - y) / 2;
    }
  }
  bits.align();
  bits.unsigned(16);
  return { size, depth };
}

/** A block of another program's: chunks of the RIFF file from which it was made are kept so by custom ("riff"). */
function readForeign(block: Uint8Array, extras: RiffExtrasReader, at: number): void {
  if (block.length < 12 || strFromU8(block.subarray(0, 4), true) !== "riff") return;
  const reader = new ByteReader(block.subarray(4));
  const tag = reader.tag();
  const length = Math.min(reader.u32(), reader.left);
  if (tag !== "RIFF" && tag !== "data" && tag !== "fmt ") extras.take(tag, reader.part(length), at);
}

/** Description and date of the comments (Xiph.Org, "Ogg Vorbis comment field specification"). */
function readComments(block: Uint8Array): { text: string; date: string } {
  const reader = new ByteReader(block);
  const found = new Map<string, string>();
  try {
    reader.skip(reader.u32());
    for (let n = Math.min(reader.u32(), 1000); n > 0; n--) {
      const comment = strFromU8(reader.part(reader.u32()));
      const cut = comment.indexOf("=");
      if (cut > 0) found.set(comment.slice(0, cut).toUpperCase(), comment.slice(cut + 1));
    }
  } catch (error) {
    if (!(error instanceof FormatError)) throw error;
  }
  const date = /^\d{4}-\d\d-\d\d/.exec(found.get("DATE") ?? "")?.[0] ?? "";
  return { text: found.get("DESCRIPTION") ?? found.get("COMMENT") ?? "", date };
}

const tooLarge = (at: number, most: number) =>
  new FormatError(
    "too-large",
    at,
    most < MOST_FRAMES
      ? `it promises more than ${most.toLocaleString("en")} frames, which is more than a file of its size can hold as sound`
      : `it holds more than ${MOST_FRAMES.toLocaleString("en")} frames; cut it into parts first`,
  );

const NOTHING = new Float32Array(0);

/** The first numbers of a plane as sound. */
function scaled(plane: Float64Array, size: number, scale: number): Float32Array {
  const out = new Float32Array(size);
  for (let i = 0; i < size; i++) out[i] = (plane[i] as number) * scale;
  return out;
}

/**
 * Reads a FLAC file (RFC 9639): all kinds of subframes, 4 to 32 bits, 1 to 8 channels of which the first two are used.
 * `salvage` takes what is there of a file that was cut off or damaged. Checksums are not verified.
 */
export function readFlac(bytes: Uint8Array, options: { salvage?: boolean } = {}): SoundFile {
  const bits = new BitReader(bytes);
  if (bytes.length < 42 || bits.unsigned(32) !== 0x664c6143)
    throw new FormatError("not-this-format", 0, "it isn't a FLAC file: it doesn't begin with fLaC");
  const warnings: string[] = [];
  const extras = new RiffExtrasReader(warnings);
  let words: { readonly text: string; readonly date: string } = { text: "", date: "" };
  let stream: Stream | null = null;
  let at = 4;
  for (let last = false; !last; ) {
    const head = new BitReader(bytes, at);
    last = head.unsigned(1) === 1;
    const type = head.unsigned(7);
    const length = head.unsigned(24);
    if (type === 0 && length >= 34) stream = readStreamInfo(head);
    else if (type === 2) readForeign(bytes.subarray(at + 4, at + 4 + length), extras, at);
    else if (type === 4) words = readComments(bytes.subarray(at + 4, at + 4 + length));
    at += 4 + length;
    if (at > bytes.length)
      throw new FormatError(
        "truncated",
        at,
        `its headers promise bytes up to ${at}, but the file ends at ${bytes.length}`,
      );
  }
  if (!stream) throw new FormatError("not-this-format", 4, "it has no stream header, so its audio can't be understood");
  if (stream.rate < 1000 || stream.rate > 768000)
    throw new FormatError("unsupported", 4, `its sample rate of ${stream.rate} Hz is out of reach`);
  const most = mostFrames(bytes.length);
  if (stream.frames > most) throw tooLarge(at, most);
  if (stream.channels > 2) warnings.push(`It has ${stream.channels} channels; the first two are used.`);
  const used = Math.min(2, stream.channels);
  const planes = Array.from({ length: stream.channels }, () => new Float64Array(65536));
  const parts: Float32Array[][] = [];
  const audioBits = new BitReader(bytes, at);
  let frames = 0;
  while (audioBits.offset < bytes.length && (stream.frames === 0 || frames < stream.frames)) {
    try {
      const { size, depth } = readFrame(audioBits, stream, planes);
      const scale = 2 ** (1 - depth);
      parts.push(planes.slice(0, used).map((plane) => scaled(plane, size, scale)));
      frames += size;
      if (frames > most) break;
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
      // Bytes after the last frame of a stream of unknown length are somebody's tags.
      if (stream.frames === 0 && frames > 0) break;
      if (!options.salvage)
        throw new FormatError("truncated", error.offset, `${error.message}; ${frames} frames before that are sound`);
      warnings.push(`It was cut off or damaged: ${frames} of ${stream.frames} frames are there.`);
      break;
    }
  }
  if (frames > most) throw tooLarge(at, most);
  if (frames === 0) throw new FormatError("no-audio", at, "it holds no audio: 0 frames");
  const total = stream.frames > 0 ? Math.min(frames, stream.frames) : frames;
  if (!options.salvage && total < stream.frames)
    throw new FormatError(
      "truncated",
      bytes.length,
      `its header promises ${stream.frames} frames, but only ${total} are there`,
    );
  const channels = Array.from({ length: used }, (_, c) => {
    const out = new Float32Array(frames);
    let to = 0;
    for (const part of parts) {
      const plane = part[c] as Float32Array;
      out.set(plane, to);
      to += plane.length;
      // What is copied is let go of: a long file is held once and a half at most.
      part[c] = NOTHING;
    }
    return out.subarray(0, total);
  });
  return {
    audio: { rate: stream.rate, channels },
    info: soundInfo(
      { frames: total, rate: stream.rate, channels: used, bits: stream.bits, float: false, warnings },
      extras.extras(total),
      words,
    ),
  };
}
