import { readAiff } from "./aiff-read";
import { readFlac } from "./flac-read";
import { FormatError } from "./format-error";
import type { RiffExtras } from "./riff-chunks";
import { type SoundFile, soundInfo } from "./sound-info";
import { RIFFS, readWav } from "./wav-read";

export type SoundKind = "wav" | "aiff" | "flac";

const extrasOf = ({ sampler, instrument, broadcast, markers }: RiffExtras): RiffExtras => ({
  sampler,
  instrument,
  broadcast,
  markers,
});

/** Which kind of sound file it is by its first bytes; null for none that the core reads. */
export function soundKindOf(head: Uint8Array): SoundKind | null {
  const tag = (at: number) => String.fromCharCode(...head.subarray(at, at + 4));
  if (RIFFS.includes(tag(0))) return "wav";
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
      const { frames, rate, bits, encoding, warnings } = info;
      const channels = audio.channels.length;
      return {
        audio,
        info: soundInfo({ frames, rate, channels, bits, float: encoding === "float", warnings }, extrasOf(info)),
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
