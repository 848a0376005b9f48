import type { Audio, Hertz } from "../audio";
import { ByteReader } from "./byte-reader";
import { FormatError } from "./format-error";
import { type RiffExtras, RiffExtrasReader } from "./riff-chunks";

/** What the header says, with where the audio bytes lie. */
export interface WavInfo extends RiffExtras {
  readonly encoding: "integer" | "float";
  readonly bits: 8 | 16 | 24 | 32 | 64;
  readonly rate: Hertz;
  /** Channels in the file; only the first two are decoded. */
  readonly fileChannels: number;
  readonly frames: number;
  readonly dataOffset: number;
  /** Sentences about what was odd and how it was read. */
  readonly warnings: readonly string[];
}

export interface WavFile {
  readonly info: WavInfo;
  readonly audio: Audio;
}

interface Format {
  encoding: "integer" | "float";
  bits: WavInfo["bits"];
  rate: number;
  channels: number;
}

/** Bytes of audio by the `ds64` chunk: after the length of the whole, 64 bits. */
function readLength(reader: ByteReader): number {
  reader.skip(8);
  const low = reader.u32();
  return low + reader.u32() * 2 ** 32;
}

const EXTENSIBLE = 0xfffe;

/** Fewer frames than these are no sound that anybody hears. */
const FEWEST = 64;

function readFormat(reader: ByteReader, length: number): Format {
  const at = reader.offset;
  if (length < 16)
    throw new FormatError("not-this-format", at, `the fmt chunk at byte ${at} has ${length} bytes, not 16`);
  let tag = reader.u16();
  const channels = reader.u16();
  const rate = reader.u32();
  reader.skip(6);
  const bits = reader.u16();
  if (tag === EXTENSIBLE && length >= 40) {
    reader.skip(8);
    tag = reader.u16();
  }
  if (tag !== 1 && tag !== 3) {
    throw new FormatError("unsupported", at, `it holds compressed audio (format ${tag}); save it as PCM or float WAV`);
  }
  const known = tag === 1 ? [8, 16, 24, 32] : [32, 64];
  if (!known.includes(bits)) throw new FormatError("unsupported", at, `${bits}-bit samples can't be read`);
  if (channels < 1) throw new FormatError("unsupported", at, "its header says that it has no channels");
  if (rate < 1000 || rate > 768000)
    throw new FormatError("unsupported", at, `its sample rate of ${rate} Hz is out of reach`);
  return { encoding: tag === 1 ? "integer" : "float", bits: bits as WavInfo["bits"], rate, channels };
}

/** Marks of RIFF files: plain ones, and those beyond 4 GB (EBU Tech 3306; ITU-R BS.2088). */
export const RIFFS: readonly string[] = ["RIFF", "RF64", "BW64"];

/** What a crashed recorder, or one that writes into a pipe, leaves where the length of the audio belongs. */
const UNKNOWN = 0xffffffff;

/** Whether chunks that hold each other's lengths follow from a byte on to the end of what is there. */
function chunksFollow(bytes: Uint8Array, from: number): boolean {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let at = from;
  for (let count = 0; at + 8 <= bytes.length; count++) {
    for (let i = at; i < at + 4; i++) if ((bytes[i] as number) < 32 || (bytes[i] as number) > 126) return false;
    const length = view.getUint32(at + 4, true);
    at += 8 + length + (length & 1);
    if (count > 64) return true;
  }
  return at > from && at <= bytes.length + 1;
}

/**
 * Reads the header of a RIFF/WAVE file (IBM & Microsoft, 1991; WAVE_FORMAT_EXTENSIBLE, 2001), skipping unknown chunks.
 * `size` is the length of the whole file where `bytes` is but its head. Where the length of the audio isn't written (as by a recorder that crashed) or
 * is more than there is, what is there counts, with a warning. Another chunk that runs past the end throws FormatError `truncated`, unless `salvage` is set.
 */
export function readWavInfo(bytes: Uint8Array, options: { salvage?: boolean; size?: number } = {}): WavInfo {
  const size = options.size ?? bytes.length;
  if (size === 0) throw new FormatError("empty", 0, "the file is empty");
  const reader = new ByteReader(bytes);
  const riff = reader.left >= 12 ? reader.tag() : "";
  if (!RIFFS.includes(riff))
    throw new FormatError(
      "not-this-format",
      0,
      "it isn't a WAV file: it doesn't begin with RIFF. Recordings can be opened as WAV",
    );
  reader.skip(4);
  if (reader.tag() !== "WAVE") throw new FormatError("not-this-format", 8, "it is a RIFF file, but not a WAVE one");
  let format: Format | null = null;
  let data: { offset: number; length: number } | null = null;
  const warnings: string[] = [];
  const extras = new RiffExtrasReader(warnings);
  /** What the `ds64` chunk of a file beyond 4 GB says of its audio, in bytes (EBU Tech 3306). */
  let long: number | null = null;
  while (reader.left >= 8) {
    const at = reader.offset;
    const tag = reader.tag();
    let length = reader.u32();
    const body = reader.offset;
    const available = size - body;
    if (tag === "data") {
      if (length === UNKNOWN && long !== null) length = long;
      const unwritten = length === UNKNOWN || (length === 0 && available > 0 && !chunksFollow(bytes, body));
      if (unwritten) {
        warnings.push("Its header doesn’t say how long it is: all that is there was taken.");
        length = available;
      } else if (length > available) {
        warnings.push(`It was cut off: ${available} of ${length} bytes of audio are there.`);
        length = available;
      }
      data ??= { offset: body, length };
    } else if (length > available) {
      if (!options.salvage)
        throw new FormatError("truncated", at, `its chunk “${tag}” at byte ${at} runs past the end of the file`);
      warnings.push(`The chunk “${tag}” at byte ${at} runs past the end and was skipped.`);
      break;
    } else if (tag === "fmt ") format = readFormat(reader, length);
    else if (tag === "ds64" && length >= 28) long = readLength(reader);
    else extras.take(tag, bytes.subarray(body, body + length), at);
    const next = body + length + (length & 1);
    if (next >= bytes.length) break;
    reader.offset = next;
  }
  if (!format) throw new FormatError("not-this-format", 12, "it has no fmt chunk, so its audio can't be understood");
  if (!data) throw new FormatError("no-audio", 12, "it has no data chunk: there is no audio in it");
  const frames = Math.floor(data.length / (format.channels * (format.bits / 8)));
  if (frames === 0) throw new FormatError("no-audio", data.offset, "it holds no audio: 0 frames");
  if (frames < FEWEST)
    warnings.push(`It is ${frames === 1 ? "one frame" : `${frames} frames`} long: too short to be heard.`);
  if (format.channels > 2) warnings.push(`It has ${format.channels} channels; the first two are used.`);
  return {
    encoding: format.encoding,
    bits: format.bits,
    rate: format.rate,
    fileChannels: format.channels,
    frames,
    dataOffset: data.offset,
    ...extras.extras(frames),
    warnings,
  };
}

/** Decodes the frames `[from, to)` of the audio bytes that `info` describes; not-a-number samples become 0. */
export function decodeWav(bytes: Uint8Array, info: WavInfo, from = 0, to = info.frames): Audio {
  const width = info.bits / 8;
  const stride = width * info.fileChannels;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const last = Math.min(to, Math.floor((bytes.length - info.dataOffset) / stride));
  const count = Math.max(0, last - from);
  const channels: Float32Array[] = [];
  for (let c = 0; c < Math.min(2, info.fileChannels); c++) {
    const out = new Float32Array(count);
    let at = info.dataOffset + from * stride + c * width;
    for (let i = 0; i < count; i++, at += stride) out[i] = sampleAt(view, at, info);
    channels.push(out);
  }
  return { rate: info.rate, channels };
}

function sampleAt(view: DataView, at: number, info: WavInfo): number {
  if (info.encoding === "float") {
    const x = info.bits === 32 ? view.getFloat32(at, true) : view.getFloat64(at, true);
    return Number.isFinite(x) ? x : 0;
  }
  switch (info.bits) {
    case 8:
      return (view.getUint8(at) - 128) / 128;
    case 16:
      return view.getInt16(at, true) / 32768;
    case 24:
      return (view.getUint16(at, true) | (view.getInt8(at + 2) << 16)) / 8388608;
    default:
      return view.getInt32(at, true) / 2147483648;
  }
}

/** How many samples of the first two channels aren't numbers, or aren't finite. */
function oddNumbers(bytes: Uint8Array, info: WavInfo): number {
  if (info.encoding !== "float") return 0;
  const width = info.bits / 8;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const used = Math.min(2, info.fileChannels);
  let odd = 0;
  for (let frame = 0; frame < info.frames; frame++) {
    for (let c = 0; c < used; c++) {
      const at = info.dataOffset + (frame * info.fileChannels + c) * width;
      if (!Number.isFinite(width === 4 ? view.getFloat32(at, true) : view.getFloat64(at, true))) odd++;
    }
  }
  return odd;
}

/** Reads a whole WAV file; see readWavInfo for what is thrown and what `salvage` does. Samples that are no numbers are silent, with a warning. */
export function readWav(bytes: Uint8Array, options: { salvage?: boolean } = {}): WavFile {
  const info = readWavInfo(bytes, options);
  const odd = oddNumbers(bytes, info);
  const warnings =
    odd === 0
      ? info.warnings
      : [
          ...info.warnings,
          `${odd === 1 ? "One sample is no number and is" : `${odd} samples are no numbers and are`} silent now.`,
        ];
  return { info: { ...info, warnings }, audio: decodeWav(bytes, info) };
}
