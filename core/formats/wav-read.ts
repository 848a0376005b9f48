import { strFromU8 } from "fflate";
import type { Audio, Hertz } from "../audio";
import type { Marker } from "../instrument";
import { ByteReader } from "./byte-reader";
import { FormatError } from "./format-error";

/** The `smpl` chunk as far as a player needs it: root note with fraction, and forward loop `[start, end)` in frames. */
export interface WavSampler {
  readonly root: number;
  /** Cents above the root, 0 to 100. */
  readonly fine: number;
  readonly loop: { readonly start: number; readonly end: number } | null;
}

/** The `inst` chunk: where its maker wanted the sound on a keyboard; cents, decibels, MIDI notes and velocities. */
export interface WavInstrument {
  readonly root: number;
  readonly fine: number;
  readonly gain: number;
  readonly keyLow: number;
  readonly keyHigh: number;
  readonly velLow: number;
  readonly velHigh: number;
}

/** What the header says, with where the audio bytes lie. */
export interface WavInfo {
  readonly encoding: "integer" | "float";
  readonly bits: 8 | 16 | 24 | 32 | 64;
  readonly rate: Hertz;
  /** Channels in the file; only the first two are decoded. */
  readonly fileChannels: number;
  readonly frames: number;
  readonly dataOffset: number;
  readonly sampler: WavSampler | null;
  readonly instrument: WavInstrument | null;
  /** Its `cue ` points, with the names and lengths of its `LIST adtl`. */
  readonly markers: readonly Marker[];
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

const EXTENSIBLE = 0xfffe;

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

function readSampler(reader: ByteReader): WavSampler {
  reader.skip(12);
  const root = Math.min(127, reader.u32());
  const fine = (reader.u32() / 2 ** 32) * 100;
  reader.skip(8);
  const loops = reader.u32();
  reader.skip(4);
  if (loops === 0) return { root, fine, loop: null };
  reader.skip(8);
  const start = reader.u32();
  const end = reader.u32() + 1;
  return { root, fine, loop: end > start ? { start, end } : null };
}

function readInstrument(reader: ByteReader): WavInstrument {
  const signed = () => (reader.u8() << 24) >> 24;
  const root = reader.u8() & 127;
  const fine = signed();
  const gain = signed();
  const key = () => reader.u8() & 127;
  return { root, fine, gain, keyLow: key(), keyHigh: key(), velLow: key(), velHigh: key() };
}

interface Cues {
  readonly points: Map<number, number>;
  readonly names: Map<number, string>;
  readonly lengths: Map<number, number>;
}

const MOST_MARKERS = 20000;

function readCues(reader: ByteReader, { points }: Cues): void {
  const count = Math.min(reader.u32(), MOST_MARKERS);
  for (let i = 0; i < count; i++) {
    const id = reader.u32();
    reader.skip(16);
    points.set(id, reader.u32());
  }
}

function readLabels(bytes: Uint8Array, { names, lengths }: Cues): void {
  const reader = new ByteReader(bytes);
  if (bytes.length < 4 || reader.tag() !== "adtl") return;
  while (reader.left >= 12 && names.size + lengths.size < 2 * MOST_MARKERS) {
    const tag = reader.tag();
    const length = reader.u32();
    const body = reader.offset;
    if (length < 4 || length > reader.left) return;
    const id = reader.u32();
    if (tag === "labl") {
      const text = reader.part(length - 4);
      const end = text.indexOf(0);
      names.set(id, strFromU8(text.subarray(0, end < 0 ? text.length : end)).slice(0, 200));
    } else if (tag === "ltxt" && length >= 8) lengths.set(id, reader.u32());
    const next = body + length + (length & 1);
    if (next > bytes.length) return;
    reader.offset = next;
  }
}

function markersOf({ points, names, lengths }: Cues, frames: number): Marker[] {
  return [...points]
    .filter(([, at]) => at < frames)
    .map(([id, at]) => ({ at, length: Math.min(lengths.get(id) ?? 0, frames - at), name: names.get(id) ?? "" }))
    .sort((a, b) => a.at - b.at);
}

/**
 * Reads the header of a RIFF/WAVE file (IBM & Microsoft, 1991; WAVE_FORMAT_EXTENSIBLE, 2001), skipping unknown chunks.
 * `size` is the length of the whole file where `bytes` is but its head. A header that promises more than there is
 * throws FormatError `truncated`, unless `salvage` is set: then what is there counts, with a warning.
 */
export function readWavInfo(bytes: Uint8Array, options: { salvage?: boolean; size?: number } = {}): WavInfo {
  const size = options.size ?? bytes.length;
  if (size === 0) throw new FormatError("empty", 0, "the file is empty");
  const reader = new ByteReader(bytes);
  const riff = reader.left >= 12 ? reader.tag() : "";
  if (riff !== "RIFF" && riff !== "RF64")
    throw new FormatError(
      "not-this-format",
      0,
      "it isn't a WAV file: it doesn't begin with RIFF. Recordings can be opened as WAV",
    );
  reader.skip(4);
  if (reader.tag() !== "WAVE") throw new FormatError("not-this-format", 8, "it is a RIFF file, but not a WAVE one");
  let format: Format | null = null;
  let data: { offset: number; length: number } | null = null;
  let sampler: WavSampler | null = null;
  let instrument: WavInstrument | null = null;
  const cues: Cues = { points: new Map(), names: new Map(), lengths: new Map() };
  const warnings: string[] = [];
  while (reader.left >= 8) {
    const at = reader.offset;
    const tag = reader.tag();
    let length = reader.u32();
    const body = reader.offset;
    const available = size - body;
    if (tag === "data") {
      const streamed = length === 0xffffffff;
      if (length > available) {
        if (!options.salvage && !streamed) {
          throw new FormatError(
            "truncated",
            body,
            `its header promises ${length} bytes of audio at byte ${body}, but only ${available} are there`,
          );
        }
        if (!streamed) warnings.push(`It was cut off: ${available} of ${length} bytes of audio are there.`);
        length = available;
      }
      data ??= { offset: body, length };
    } else if (length > available) {
      if (!options.salvage)
        throw new FormatError("truncated", at, `its chunk “${tag}” at byte ${at} runs past the end of the file`);
      warnings.push(`The chunk “${tag}” at byte ${at} runs past the end and was left out.`);
      break;
    } else if (tag === "fmt ") format = readFormat(reader, length);
    else if (tag === "smpl" && length >= 36) sampler = tryRead(() => readSampler(reader), warnings, tag, at);
    else if (tag === "inst" && length >= 7) instrument = tryRead(() => readInstrument(reader), warnings, tag, at);
    else if (tag === "cue " && length >= 4) tryRead(() => readCues(reader, cues), warnings, tag, at);
    else if (tag === "LIST") readLabels(bytes.subarray(body, body + length), cues);
    const next = body + length + (length & 1);
    if (next >= bytes.length) break;
    reader.offset = next;
  }
  if (!format) throw new FormatError("not-this-format", 12, "it has no fmt chunk, so its audio can't be understood");
  if (!data) throw new FormatError("no-audio", 12, "it has no data chunk: there is no audio in it");
  const frames = Math.floor(data.length / (format.channels * (format.bits / 8)));
  if (frames === 0) throw new FormatError("no-audio", data.offset, "it holds no audio: 0 frames");
  if (format.channels > 2) warnings.push(`It has ${format.channels} channels; the first two are used.`);
  return {
    encoding: format.encoding,
    bits: format.bits,
    rate: format.rate,
    fileChannels: format.channels,
    frames,
    dataOffset: data.offset,
    sampler,
    instrument,
    markers: markersOf(cues, frames),
    warnings,
  };
}

function tryRead<T>(read: () => T, warnings: string[], tag: string, at: number): T | null {
  try {
    return read();
  } catch (error) {
    if (!(error instanceof FormatError)) throw error;
    warnings.push(`The chunk “${tag}” at byte ${at} is damaged and was left out.`);
    return null;
  }
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

/** Reads a whole WAV file; see readWavInfo for what is thrown and what `salvage` does. */
export function readWav(bytes: Uint8Array, options: { salvage?: boolean } = {}): WavFile {
  const info = readWavInfo(bytes, options);
  return { info, audio: decodeWav(bytes, info) };
}
