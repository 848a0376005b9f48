import type { Audio } from "../audio";
import type { LoopMode } from "../instrument";
import { ByteReader } from "./byte-reader";
import { FormatError } from "./format-error";
import type { WavInstrument, WavSampler } from "./riff-chunks";
import { type SoundFile, soundInfo } from "./sound-info";
import { textOf } from "./text-of";

/** Chunks that hold words about the sound. */
const WORDS: ReadonlySet<string> = new Set(["NAME", "AUTH", "(c) ", "ANNO"]);

interface Common {
  channels: number;
  frames: number;
  bits: number;
  rate: number;
  encoding: "big" | "little" | "float32" | "float64";
}

const RAW = new Map<string, Common["encoding"]>([
  ["NONE", "big"],
  ["twos", "big"],
  ["sowt", "little"],
  ["fl32", "float32"],
  ["FL32", "float32"],
  ["fl64", "float64"],
  ["FL64", "float64"],
]);

/** An 80-bit extended float, as AIFF gives its rate. */
function extended(reader: ByteReader): number {
  const exponent = (reader.u16() & 0x7fff) - 16383;
  const high = reader.u32();
  const low = reader.u32();
  return high * 2 ** (exponent - 31) + low * 2 ** (exponent - 63);
}

function readCommon(reader: ByteReader, length: number, compressed: boolean): Common {
  const at = reader.offset;
  if (length < 18)
    throw new FormatError("not-this-format", at, `the COMM chunk at byte ${at} has ${length} bytes, not 18`);
  const channels = reader.u16();
  const frames = reader.u32();
  const bits = reader.u16();
  const rate = extended(reader);
  const type = compressed && length >= 22 ? reader.tag() : "NONE";
  const encoding = RAW.get(type);
  if (!encoding)
    throw new FormatError("unsupported", at, `it holds compressed audio (“${type}”); save it as plain AIFF`);
  if (channels < 1) throw new FormatError("unsupported", at, "its header says that it has no channels");
  if (bits < 1 || bits > 64) throw new FormatError("unsupported", at, `${bits}-bit samples can't be read`);
  if (!(rate >= 1000 && rate <= 768000))
    throw new FormatError("unsupported", at, `its sample rate of ${rate} Hz is out of reach`);
  return { channels, frames, bits, rate, encoding };
}

function readMarkers(reader: ByteReader): Map<number, { at: number; name: string }> {
  const marks = new Map<number, { at: number; name: string }>();
  const count = reader.u16();
  for (let i = 0; i < count && reader.left >= 7; i++) {
    const id = reader.u16();
    const at = reader.u32();
    const length = reader.u8();
    const name = textOf(reader.part(Math.min(length, reader.left)));
    if (length % 2 === 0 && reader.left > 0) reader.skip(1);
    marks.set(id, { at, name });
  }
  return marks;
}

/** What the INST chunk says: base note, detuning, ranges, gain, and its sustain loop by the ids of two markers. */
interface Instrument {
  readonly about: WavInstrument;
  readonly mode: LoopMode | null;
  readonly from: number;
  readonly to: number;
}

function readInstrument(reader: ByteReader): Instrument {
  const signed = () => (reader.u8() << 24) >> 24;
  const root = reader.u8() & 127;
  const fine = signed();
  const key = () => reader.u8() & 127;
  const [keyLow, keyHigh, velLow, velHigh] = [key(), key(), key(), key()];
  const gain = reader.left >= 2 ? (reader.u16() << 16) >> 16 : 0;
  const [mode, from, to] = reader.left >= 6 ? [reader.u16(), reader.u16(), reader.u16()] : [0, 0, 0];
  return {
    about: { root, fine, gain, keyLow, keyHigh, velLow, velHigh },
    mode: mode === 1 ? "forward" : mode === 2 ? "alternating" : null,
    from,
    to,
  };
}

type Marks = ReadonlyMap<number, { readonly at: number; readonly name: string }>;

/** The base note as root: the file says by how much it is to be moved when played, so the sound itself is as far off the other way. */
function samplerOf({ about, mode, from, to }: Instrument, marks: Marks, frames: number): WavSampler {
  const pitch = about.root - about.fine / 100;
  const root = Math.max(0, Math.min(127, Math.floor(pitch)));
  const [start, end] = [marks.get(from)?.at, marks.get(to)?.at];
  const loops = mode !== null && start !== undefined && end !== undefined && start < end && end <= frames;
  return { root, fine: Math.max(0, (pitch - root) * 100), loop: loops ? { start, end, mode } : null };
}

function decode(bytes: Uint8Array, { channels, frames, bits, rate, encoding }: Common): Audio {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const width = encoding === "float32" ? 4 : encoding === "float64" ? 8 : Math.ceil(bits / 8);
  const count = Math.min(frames, Math.floor(bytes.length / (width * channels)));
  const little = encoding === "little";
  const sample = (at: number): number => {
    if (encoding === "float32" || encoding === "float64") {
      const x = encoding === "float32" ? view.getFloat32(at) : view.getFloat64(at);
      return Number.isFinite(x) ? x : 0;
    }
    switch (width) {
      case 1:
        return view.getInt8(at) / 128;
      case 2:
        return view.getInt16(at, little) / 32768;
      case 3:
        return little
          ? (view.getUint16(at, true) | (view.getInt8(at + 2) << 16)) / 8388608
          : ((view.getInt16(at) << 8) | view.getUint8(at + 2)) / 8388608;
      default:
        return view.getInt32(at, little) / 2147483648;
    }
  };
  return {
    rate,
    channels: Array.from({ length: Math.min(2, channels) }, (_, c) => {
      const out = new Float32Array(count);
      for (let i = 0; i < count; i++) out[i] = sample((i * channels + c) * width);
      return out;
    }),
  };
}

/**
 * Reads an AIFF or AIFF-C file of plain samples (Apple, "Audio Interchange File Format", 1989; AIFF-C draft, 1991) with its
 * markers and its instrument's base note. `salvage` takes what is there of a file that was cut off.
 */
export function readAiff(bytes: Uint8Array, options: { salvage?: boolean } = {}): SoundFile {
  if (bytes.length === 0) throw new FormatError("empty", 0, "the file is empty");
  const reader = new ByteReader(bytes, false);
  if (reader.left < 12 || reader.tag() !== "FORM")
    throw new FormatError("not-this-format", 0, "it isn't an AIFF file: it doesn't begin with FORM");
  reader.skip(4);
  const kind = reader.tag();
  if (kind !== "AIFF" && kind !== "AIFC")
    throw new FormatError("not-this-format", 8, "it is an IFF file, but not an AIFF one");
  const warnings: string[] = [];
  let common: Common | null = null;
  let sound: Uint8Array | null = null;
  let marks = new Map<number, { at: number; name: string }>();
  let instrument: Instrument | null = null;
  const words: string[] = [];
  while (reader.left >= 8) {
    const at = reader.offset;
    const tag = reader.tag();
    const length = reader.u32();
    const body = reader.offset;
    const there = Math.min(length, reader.left);
    if (there < length) {
      if (!options.salvage)
        throw new FormatError(
          "truncated",
          at,
          `its chunk “${tag}” at byte ${at} promises ${length} bytes, but only ${there} are there`,
        );
      warnings.push(`The chunk “${tag}” at byte ${at} was cut off: ${there} of ${length} bytes are there.`);
    }
    if (tag === "COMM") common = readCommon(reader, there, kind === "AIFC");
    else if (tag === "SSND" && there >= 8) {
      const offset = reader.u32();
      sound = bytes.subarray(Math.min(body + 8 + offset, body + there), body + there);
    } else if (tag === "MARK" && there >= 2) {
      marks = readMarkers(new ByteReader(bytes.subarray(body, body + there), false));
    } else if (tag === "INST" && there >= 8) {
      instrument = readInstrument(new ByteReader(bytes.subarray(body, body + there), false));
    } else if (WORDS.has(tag))
      words.push(
        textOf(bytes.subarray(body, body + there))
          .replaceAll("\0", "")
          .trim(),
      );
    const next = body + length + (length & 1);
    if (next >= bytes.length) break;
    reader.offset = next;
  }
  if (!common) throw new FormatError("not-this-format", 12, "it has no COMM chunk, so its audio can't be understood");
  if (!sound) throw new FormatError("no-audio", 12, "it has no SSND chunk: there is no audio in it");
  const audio = decode(sound, common);
  const frames = audio.channels[0]?.length ?? 0;
  if (frames === 0) throw new FormatError("no-audio", 12, "it holds no audio: 0 frames");
  if (common.channels > 2) warnings.push(`It has ${common.channels} channels; the first two are used.`);
  const markers = [...marks.values()]
    .filter((m) => m.at < frames)
    .sort((a, b) => a.at - b.at)
    .map((m) => ({ at: m.at, length: 0, name: m.name }));
  const { rate, bits, encoding } = common;
  const float = encoding === "float32" || encoding === "float64";
  const sampler = instrument && samplerOf(instrument, marks, frames);
  return {
    audio,
    info: soundInfo(
      { frames, rate, channels: audio.channels.length, bits, float, warnings },
      { sampler, instrument: instrument?.about ?? null, broadcast: null, markers },
      { text: words.filter((w) => w !== "").join("\n") },
    ),
  };
}
