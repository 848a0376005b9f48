import type { Audio } from "../../core/audio";
import {
  type NoiseMemory,
  noteOfSlice,
  pitchOfSlice,
  samplerOf,
  soundOfSlice,
  type WavDepth,
  writeFlac,
  writeWav,
} from "../../core/formats";
import type { Slice, Take } from "../../core/instrument";

/** How slices leave as files. */
export interface ExportOptions {
  readonly format: "wav" | "flac";
  /** FLAC holds 16 or 24 bits; 32 becomes 24 there. */
  readonly depth: WavDepth;
}

/** The bytes of a slice as a file: its treated sound, and in a WAV its root note, key and attack. */
export function sliceFile(
  audio: Audio,
  take: Take,
  slice: Slice,
  options: ExportOptions,
  memory?: NoiseMemory,
): Uint8Array<ArrayBuffer> {
  const sound = soundOfSlice(audio, take, slice, memory);
  if (options.format === "flac") return writeFlac(sound, options.depth === 16 ? 16 : 24);
  const note = noteOfSlice(slice);
  const pitch = pitchOfSlice(slice);
  const cents = note === null || pitch === null ? 0 : Math.round((pitch - note) * 100);
  return writeWav(sound, options.depth, {
    sampler: samplerOf(pitch),
    // An `inst` tuning says how far to move the sound, a measured pitch how far it is off.
    instrument:
      note === null
        ? null
        : { root: note, fine: -cents, gain: 0, keyLow: note, keyHigh: note, velLow: 1, velHigh: 127 },
    markers: [{ at: Math.max(0, slice.onset - slice.start), length: 0, name: "attack" }],
    dither: true,
  });
}

/** How many bytes the files will take, nearly; FLAC by its usual share. */
export function estimateBytes(take: Take, slices: readonly Slice[], { format, depth }: ExportOptions): number {
  const frames = slices.reduce((sum, s) => sum + s.end - s.start, 0);
  const plain = frames * take.channels * (depth / 8) + slices.length * 200;
  return format === "flac" ? Math.round(frames * take.channels * (Math.min(depth, 24) / 8) * 0.65) : plain;
}
