import { type Audio, monoOf, peakOf } from "../audio";
import type { Progress } from "./levels";
import { loudnessOf } from "./loudness";
import { PitchFinder } from "./pitch";
import type { FoundSlice } from "./slices";

/** A slice with what was measured of it; levels in dBFS and LUFS. */
export interface MeasuredSlice extends FoundSlice {
  readonly pitch: number | null;
  readonly confidence: number;
  readonly peak: number;
  readonly loudness: number;
}

/** Confidence from which a pitch is believed. */
export const SURE = 0.6;

/** Measures pitch, peak and loudness of some slices of a take. */
export function measureSlices(audio: Audio, slices: readonly FoundSlice[], progress?: Progress): MeasuredSlice[] {
  const mono = monoOf(audio);
  const finder = new PitchFinder(audio.rate, 32, Math.min(4200, audio.rate / 5));
  return slices.map((slice, i) => {
    progress?.(i / slices.length);
    const { note, confidence } = finder.find(mono, slice.onset, slice.end);
    return {
      ...slice,
      pitch: note,
      confidence,
      peak: Math.max(-120, peakOf(audio, slice.start, slice.end)),
      loudness: loudnessOf(audio, slice.start, slice.end),
    };
  });
}

/** Whether each slice is worth keeping: in a take of pitched sounds, those without a clear pitch, or far shorter than most, are bumps and false starts. */
export function proposeKeep(slices: readonly MeasuredSlice[]): boolean[] {
  const pitched = slices.filter((s) => s.confidence >= SURE).length;
  const tonal = pitched > slices.length / 2;
  const lengths = slices.map((s) => s.end - s.start).sort((a, b) => a - b);
  const usual = lengths[Math.floor(lengths.length / 2)] ?? 0;
  return slices.map((s) => !tonal || (s.confidence >= SURE && s.end - s.start > usual / 5));
}
