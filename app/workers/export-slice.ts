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

/** Bits by which a sample of white noise exceeds the logarithm of its effective value: half of log2(2πe). */
const NOISE_BITS = 2.05;
/** Level of the noise where nobody has measured it, in dBFS. */
const USUAL_FLOOR = -60;

/** How many bytes the files will take, nearly: what can't be predicted, and so fills a FLAC file, is the noise of the take. */
export function estimateBytes(take: Take, slices: readonly Slice[], { format, depth }: ExportOptions): number {
  const frames = slices.reduce((sum, s) => sum + s.end - s.start, 0);
  const plain = frames * take.channels * (depth / 8) + slices.length * 200;
  if (format === "wav") return plain;
  const noise = ((take.floor ?? USUAL_FLOOR) / 20) * Math.log2(10) + (depth === 16 ? 15 : 23);
  const bits = Math.min(depth === 16 ? 16 : 24, Math.max(1, noise + NOISE_BITS));
  return Math.round((frames * take.channels * bits) / 8) + slices.length * 100;
}
