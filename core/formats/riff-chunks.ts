import { strFromU8 } from "fflate";
import type { LoopMode, Marker } from "../instrument";
import { ByteReader } from "./byte-reader";
import { FormatError } from "./format-error";

/** A loop that a file gives, in frames `[start, end)`, and how it is played. */
export interface FileLoop {
  readonly start: number;
  readonly end: number;
  readonly mode: LoopMode;
}

/** The `smpl` chunk as far as a player needs it: root note with fraction, its first loop, and those after it. */
export interface WavSampler {
  readonly root: number;
  /** Cents above the root, 0 to 100. */
  readonly fine: number;
  readonly loop: FileLoop | null;
  readonly further?: readonly FileLoop[];
}

/** Loops of one file that are read; a zone has no more to choose from. */
const MOST_LOOPS = 8;

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

/** The `bext` chunk (EBU Tech 3285): what was recorded, by whom and when, and the whole of it as it stood. */
export interface Broadcast {
  readonly description: string;
  readonly originator: string;
  /** `2026-11-25`, or empty. */
  readonly date: string;
  readonly bytes: Uint8Array;
}

/** What a RIFF file says beside its audio. */
export interface RiffExtras {
  readonly sampler: WavSampler | null;
  readonly instrument: WavInstrument | null;
  readonly broadcast: Broadcast | null;
  /** Its `cue ` points, with the names and lengths of its `LIST adtl`. */
  readonly markers: readonly Marker[];
}

const LOOP_MODES: readonly LoopMode[] = ["forward", "alternating", "backward"];
/** Bytes of the fixed part of a `bext` chunk. */
const BROADCAST = 602;

function readSampler(reader: ByteReader): WavSampler {
  reader.skip(12);
  const root = Math.min(127, reader.u32());
  const fine = (reader.u32() / 2 ** 32) * 100;
  reader.skip(8);
  const loops = reader.u32();
  reader.skip(4);
  const found: FileLoop[] = [];
  // Some promise more loops than they hold.
  for (let n = 0; n < Math.min(loops, MOST_LOOPS) && reader.left >= (n === 0 ? 16 : 24); n++) {
    reader.skip(4);
    const mode = LOOP_MODES[reader.u32()] ?? "forward";
    const start = reader.u32();
    const end = reader.u32() + 1;
    if (end > start) found.push({ start, end, mode });
    if (reader.left >= 8) reader.skip(8);
  }
  const [loop = null, ...further] = found;
  return { root, fine, loop, further };
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

/** Text of a field of fixed length, up to its first zero. */
function fieldText(bytes: Uint8Array): string {
  const end = bytes.indexOf(0);
  return strFromU8(bytes.subarray(0, end < 0 ? bytes.length : end), true).trim();
}

const readBroadcast = (bytes: Uint8Array): Broadcast => ({
  description: fieldText(bytes.subarray(0, 256)),
  originator: fieldText(bytes.subarray(256, 288)),
  date: fieldText(bytes.subarray(320, 330)).replace(/^(\d{4})\D(\d\d)\D(\d\d)$/, "$1-$2-$3"),
  // A copy, so that it doesn't hold the whole file.
  bytes: bytes.slice(),
});

/** Takes the chunks of a RIFF file in, one after the other, other than format and audio; what is damaged is told and left out. */
export class RiffExtrasReader {
  private sampler: WavSampler | null = null;
  private instrument: WavInstrument | null = null;
  private broadcast: Broadcast | null = null;
  private readonly cues: Cues = { points: new Map(), names: new Map(), lengths: new Map() };

  constructor(private readonly warnings: string[]) {}

  /** A chunk's bytes without its head; `at` is where it begins in the file. */
  take(tag: string, bytes: Uint8Array, at: number): void {
    const reader = new ByteReader(bytes);
    const attempt = (read: () => void): void => {
      try {
        read();
      } catch (error) {
        if (!(error instanceof FormatError)) throw error;
        this.warnings.push(`The chunk “${tag}” at byte ${at} is damaged and was skipped.`);
      }
    };
    attempt(() => {
      if (tag === "smpl" && bytes.length >= 36) this.sampler = readSampler(reader);
      else if (tag === "inst" && bytes.length >= 7) this.instrument = readInstrument(reader);
      else if (tag === "cue " && bytes.length >= 4) readCues(reader, this.cues);
      else if (tag === "LIST") readLabels(bytes, this.cues);
      else if (tag === "bext" && bytes.length >= BROADCAST) this.broadcast = readBroadcast(bytes);
    });
  }

  /** What was found; markers beyond so many frames are left out. */
  extras(frames: number): RiffExtras {
    const { sampler, instrument, broadcast, cues } = this;
    return { sampler, instrument, broadcast, markers: markersOf(cues, frames) };
  }
}
