import { type Audio, fadeEnds, framesOf, nameOfNote, sliceAudio } from "../audio";
import type { Sample, Slice, Take } from "../instrument";
import { sha256Of } from "./hash";
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

/** A sample's name from its take, note and number: `spokes-D4-07`. */
export function nameSample(take: string, note: number | null, number: number): string {
  const base =
    take
      .replace(/\.[a-z0-9]{2,4}$/i, "")
      .replace(/[^\p{L}\p{N}_-]+/gu, "-")
      .replace(/^-+|-+$/g, "") || "take";
  return [base, note === null ? null : nameOfNote(note), String(number).padStart(2, "0")].filter(Boolean).join("-");
}

/**
 * Cuts one slice out of a take: 1 ms of fade-in, 8 ms of fade-out, written as WAV with its root note inside.
 */
export function makeSample(
  audio: Audio,
  take: Pick<Take, "id" | "name">,
  slice: Slice,
  number: number,
  depth: WavDepth = 24,
): MadeSample {
  const cut = sliceAudio(audio, slice.start, slice.end);
  const faded = fadeEnds(cut, Math.round(audio.rate * 0.001), Math.round(audio.rate * 0.008));
  const note = noteOfSlice(slice);
  const pitch = pitchOfSlice(slice);
  const root = pitch === null ? 60 : Math.floor(pitch);
  const bytes = writeWav(faded, depth, pitch === null ? null : { root, fine: (pitch - root) * 100, loop: null });
  return {
    bytes,
    sample: {
      sha: sha256Of(bytes),
      name: nameSample(take.name, note, number),
      frames: framesOf(faded),
      rate: audio.rate,
      channels: audio.channels.length,
      pitch,
      confidence: slice.note === null && slice.cents === null ? slice.confidence : 1,
      peak: slice.peak,
      loudness: slice.loudness,
      from: { take: take.id, slice: slice.id },
    },
  };
}
