import type { Audio, Hertz } from "../audio";
import type { Marker } from "../instrument";
import { readAiff } from "./aiff-read";
import { readFlac } from "./flac-read";
import { FormatError } from "./format-error";
import { readWav } from "./wav-read";

/** What any sound file says of itself. */
export interface SoundInfo {
  readonly frames: number;
  readonly rate: Hertz;
  readonly channels: number;
  readonly markers: readonly Marker[];
  /** The root note that is written inside, with cents above it; null where none is. */
  readonly root: { readonly note: number; readonly cents: number } | null;
  /** The first forward loop that is written inside, in frames `[start, end)`; null where there is none. */
  readonly loop: { readonly start: number; readonly end: number } | null;
  /** Sentences about what was odd and how it was read. */
  readonly warnings: readonly string[];
}

export interface SoundFile {
  readonly audio: Audio;
  readonly info: SoundInfo;
}

export type SoundKind = "wav" | "aiff" | "flac";

/** Which kind of sound file it is by its first bytes; null for none that the core reads. */
export function soundKindOf(head: Uint8Array): SoundKind | null {
  const tag = (at: number) => String.fromCharCode(...head.subarray(at, at + 4));
  if (["RIFF", "RF64"].includes(tag(0))) return "wav";
  if (tag(0) === "FORM" && tag(8).startsWith("AIF")) return "aiff";
  return tag(0) === "fLaC" ? "flac" : null;
}

/** Reads a WAV, AIFF or FLAC file. Throws FormatError for anything else and for damage that `salvage` can't mend. */
export function readSound(bytes: Uint8Array, options: { salvage?: boolean } = {}): SoundFile {
  switch (soundKindOf(bytes)) {
    case "aiff":
      return readAiff(bytes, options);
    case "flac":
      return readFlac(bytes, options);
    case "wav": {
      const { audio, info } = readWav(bytes, options);
      const root = info.sampler ? { note: info.sampler.root, cents: info.sampler.fine } : null;
      const from = root ?? (info.instrument ? { note: info.instrument.root, cents: -info.instrument.fine } : null);
      return {
        audio,
        info: {
          frames: info.frames,
          rate: info.rate,
          channels: audio.channels.length,
          markers: info.markers,
          root: from,
          loop: info.sampler?.loop ?? null,
          warnings: info.warnings,
        },
      };
    }
    default:
      if (bytes.length === 0) throw new FormatError("empty", 0, "the file is empty");
      throw new FormatError(
        "not-this-format",
        0,
        "it is no WAV, AIFF or FLAC file: it begins with none of their marks",
      );
  }
}
