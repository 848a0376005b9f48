import { ByteReader } from "./byte-reader";
import { FormatError } from "./format-error";

/** One channel message of a song at a time in seconds: the status byte and its two data bytes. */
export interface SongEvent {
  readonly seconds: number;
  readonly status: number;
  readonly data1: number;
  readonly data2: number;
}

/** A Standard MIDI File as a player needs it: channel messages in time order, and when the last track ends. */
export interface Song {
  readonly events: readonly SongEvent[];
  readonly seconds: number;
  readonly tempo: number;
  /** Sentences about what was odd and how it was read. */
  readonly warnings: readonly string[];
}

interface TickEvent {
  tick: number;
  order: number;
  status: number;
  data1: number;
  data2: number;
  /** Microseconds for a quarter note, where this is a tempo change. */
  tempo: number;
}

function readVariable(reader: ByteReader): number {
  let value = 0;
  for (let i = 0; i < 4; i++) {
    const byte = reader.u8();
    value = (value << 7) | (byte & 127);
    if (byte < 128) return value;
  }
  throw new FormatError("damaged", reader.offset, `a time at byte ${reader.offset} is longer than four bytes`);
}

function readTrack(reader: ByteReader, end: number, out: TickEvent[]): number {
  let tick = 0;
  let running = 0;
  while (reader.offset < end) {
    tick += readVariable(reader);
    let status = reader.u8();
    if (status < 128) {
      if (running === 0)
        throw new FormatError("damaged", reader.offset - 1, `no message begins at byte ${reader.offset - 1}`);
      reader.offset--;
      status = running;
    }
    if (status === 0xff) {
      const kind = reader.u8();
      const body = reader.part(readVariable(reader));
      if (kind === 0x2f) return tick;
      if (kind === 0x51 && body.length === 3) {
        const tempo = ((body[0] ?? 0) << 16) | ((body[1] ?? 0) << 8) | (body[2] ?? 0);
        out.push({ tick, order: out.length, status: 0, data1: 0, data2: 0, tempo });
      }
      continue;
    }
    if (status >= 0xf0) {
      reader.skip(readVariable(reader));
      continue;
    }
    running = status;
    const data1 = reader.u8() & 127;
    const kind = status & 0xf0;
    const data2 = kind === 0xc0 || kind === 0xd0 ? 0 : reader.u8() & 127;
    out.push({ tick, order: out.length, status, data1, data2, tempo: 0 });
  }
  return tick;
}

/** Seconds of a tick where a file counts in film frames (SMPTE) and parts of them; null where it counts in beats. */
function secondsOfTick(division: number): number | null {
  if (division === 0) throw new FormatError("damaged", 12, "its time has no unit: a beat has no ticks");
  if ((division & 0x8000) === 0) return null;
  const rate = 256 - (division >> 8);
  const parts = division & 255;
  // 29 stands for the 30 frames of colour television, of which 29.97 go in a second.
  const frames = rate === 29 ? 30000 / 1001 : rate;
  if (![24, 25, 29, 30].includes(rate) || parts === 0)
    throw new FormatError("damaged", 12, `it counts ${rate} film frames a second, each of ${parts} parts`);
  return 1 / (frames * parts);
}

/** Whether four letters stand at a byte, as at the head of a chunk. */
const isTag = (bytes: Uint8Array, at: number): boolean =>
  at + 4 <= bytes.length && bytes.subarray(at, at + 4).every((b) => b >= 32 && b <= 126);

/** Reads a Standard MIDI File of format 0 or 1 (MIDI Association, 1996); a truncated one throws FormatError. */
export function readMidi(bytes: Uint8Array): Song {
  if (bytes.length === 0) throw new FormatError("empty", 0, "the file is empty");
  const reader = new ByteReader(bytes, false);
  if (bytes.length < 14 || reader.tag() !== "MThd") {
    throw new FormatError("not-this-format", 0, "it isn't a Standard MIDI File: it doesn't begin with MThd");
  }
  const headerLength = reader.u32();
  const format = reader.u16();
  const tracks = reader.u16();
  const division = reader.u16();
  reader.skip(Math.max(0, headerLength - 6));
  if (format > 1) throw new FormatError("unsupported", 8, `format ${format} (independent songs) can't be read`);
  const tickSeconds = secondsOfTick(division);
  const events: TickEvent[] = [];
  let lastTick = 0;
  const warnings: string[] = [];
  let read = 0;
  // Chunks of other kinds are passed over, and no track.
  while (read < tracks && reader.left >= 8) {
    // Some pad such a chunk to an even length, as other formats do.
    if (!isTag(bytes, reader.offset) && isTag(bytes, reader.offset + 1)) reader.offset++;
    const tag = reader.tag();
    const length = reader.u32();
    if (length > reader.left) {
      throw new FormatError(
        "truncated",
        reader.offset,
        `track ${read + 1} of ${tracks} is cut off at byte ${bytes.length}`,
      );
    }
    const end = reader.offset + length;
    if (tag === "MTrk") {
      lastTick = Math.max(lastTick, readTrack(reader, end, events));
      read++;
    }
    reader.offset = end;
  }
  if (read === 0) throw new FormatError("no-audio", reader.offset, "there is no track in it");
  if (read < tracks) warnings.push(`It promises ${tracks} tracks; ${read} of them ${read === 1 ? "is" : "are"} there.`);
  events.sort((a, b) => a.tick - b.tick || a.order - b.order);
  let seconds = 0;
  let tick = 0;
  let tempo = 500000;
  let firstTempo = 0;
  const out: SongEvent[] = [];
  for (const event of events) {
    seconds += (event.tick - tick) * (tickSeconds ?? tempo / division / 1e6);
    tick = event.tick;
    if (event.tempo > 0) {
      tempo = event.tempo;
      firstTempo ||= tempo;
    } else if (event.status > 0) out.push({ seconds, status: event.status, data1: event.data1, data2: event.data2 });
  }
  seconds += (lastTick - tick) * (tickSeconds ?? tempo / division / 1e6);
  return { events: out, seconds, tempo: 6e7 / (firstTempo || 500000), warnings };
}
