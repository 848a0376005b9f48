import { loudnessOf } from "../analysis";
import { type Audio, framesOf, peakOf } from "../audio";
import type { Sample, SampleCut, Slice, Take } from "../instrument";
import { sha256Of } from "./hash";
import type { WavSampler } from "./riff-chunks";
import { depthFor } from "./sample-of-file";
import { type NoiseMemory, soundOfSlice } from "./treat-slice";
import { type WavDepth, writeWav } from "./wav-write";

/** A sample ready to be stored: its entry in the document and its WAV file. */
export interface MadeSample {
  readonly sample: Sample;
  readonly bytes: Uint8Array<ArrayBuffer>;
}

/** The root note of a slice: what its owner said, else what was measured; null where neither is known. */
export const noteOfSlice = (slice: Pick<Slice, "note" | "pitch">): number | null =>
  slice.note ?? (slice.pitch === null ? null : Math.round(slice.pitch));

/**
 * The exact pitch of a slice: its note with the cents that its owner said, else with those that were measured (by the octave
 * nearest to the note; none where the measured pitch is another note altogether). Null where nothing is known.
 */
export function pitchOfSlice(slice: Pick<Slice, "note" | "pitch" | "cents">): number | null {
  const note = noteOfSlice(slice);
  if (note === null) return null;
  if (slice.cents !== null) return note + slice.cents / 100;
  if (slice.pitch === null) return note;
  const moved = slice.pitch + 12 * Math.round((note - slice.pitch) / 12);
  return Math.abs(moved - note) <= 0.5 ? moved : note;
}

/** How far a slice is off its note, in cents; null where nothing is known. */
export function centsOfSlice(slice: Pick<Slice, "note" | "pitch" | "cents">): number | null {
  const note = noteOfSlice(slice);
  const pitch = pitchOfSlice(slice);
  return note === null || pitch === null ? null : (pitch - note) * 100;
}

/**
 * Makes a sample of one slice of a take: its treated sound as a 24-bit WAV file (or another depth) with its root note inside.
 * Peak and loudness are those of the treated sound.
 */
export function makeSample(
  audio: Audio,
  take: Pick<Take, "id" | "treatments">,
  slice: Slice,
  name: string,
  depth: WavDepth = 24,
  memory: NoiseMemory = new Map(),
): MadeSample {
  const sound = soundOfSlice(audio, take, slice, memory);
  const pitch = pitchOfSlice(slice);
  // Beyond full scale a sound is kept as it is, not clipped.
  const bytes = writeWav(sound, Math.max(depth, depthFor(sound)) as WavDepth, {
    sampler: samplerOf(pitch),
    dither: true,
  });
  const plain = take.treatments.length + slice.treatments.length === 0;
  return {
    bytes,
    sample: {
      sha: sha256Of(bytes),
      name,
      frames: framesOf(sound),
      rate: audio.rate,
      channels: audio.channels.length,
      pitch,
      confidence: slice.note === null && slice.cents === null ? slice.confidence : 1,
      peak: plain ? slice.peak : Math.max(-120, peakOf(sound)),
      loudness: plain ? slice.loudness : loudnessOf(sound),
      strength: slice.strength,
      repeat: slice.repeat,
      use: "note",
      from: { take: take.id, slice: slice.id, cut: cutOf(take, slice) },
      file: null,
      beat: null,
    },
  };
}

/** How a slice is cut: where it lies in its take, and what its treatments do to its length and direction. */
export function cutOf(take: Pick<Take, "treatments">, slice: Slice): SampleCut {
  const units = [...take.treatments, ...slice.treatments];
  const ratio = units.reduce((r, u) => (u.kind === "stretch" ? r * Number(u.params.ratio ?? 1) : r), 1);
  const reversed = units.filter((u) => u.kind === "reverse").length % 2 === 1;
  return { start: slice.start, end: slice.end, ratio, reversed };
}

/** The `smpl` chunk of a pitch (a note with fraction); null where there is none. */
export function samplerOf(pitch: number | null): WavSampler | null {
  if (pitch === null) return null;
  const root = Math.min(127, Math.max(0, Math.floor(pitch)));
  return { root, fine: Math.min(99.99, Math.max(0, (pitch - root) * 100)), loop: null };
}
