import { type Flattening, type Loop, loopMirrored, settleLoop, type Zone } from "../instrument";
import { type Course, type Piece, planCourse, type Stretch } from "./course";
import { type FrameReader, frameReader, PAD, type SampleLayout, type StoredSample } from "./stored-sample";

/** What decides how a zone is read. */
export type ZoneReading = Pick<Zone, "sample" | "start" | "end" | "reverse" | "loop" | "releaseLoop">;

export const readingOf = ({ sample, start, end, reverse, loop, releaseLoop }: Zone): ZoneReading => ({
  sample,
  start,
  end,
  reverse,
  loop,
  releaseLoop,
});

/** Whether two zones are read alike, so that one path serves for both. */
export const sameReading = (a: ZoneReading, b: ZoneReading): boolean =>
  a.sample === b.sample &&
  a.start === b.start &&
  a.end === b.end &&
  a.reverse === b.reverse &&
  sameLoop(a.loop, b.loop) &&
  sameLoop(a.releaseLoop, b.releaseLoop);

/** Whether two things are of the same values; lists in them are looked through. */
function alike<T extends object>(a: T | null, b: T | null): boolean {
  if (a === b) return true;
  if (a === null || b === null) return false;
  return (Object.keys(a) as (keyof T)[]).every((key) => {
    const [x, y] = [a[key], b[key]];
    if (Array.isArray(x) && Array.isArray(y)) return x.length === y.length && x.every((v, i) => v === y[i]);
    return x === y;
  });
}

const sameLoop = (a: Loop | null, b: Loop | null): boolean => {
  if (a === null || b === null || a === b) return a === b;
  const [{ flat, ...one }, { flat: otherFlat, ...other }] = [a, b];
  return alike(one, other) && alike<Flattening>(flat, otherFlat);
};

/** The stretch of a zone, in frames counted in the direction of playing. */
export function stretchOf({ start, end, reverse }: ZoneReading, frames: number): { start: number; end: number } {
  const low = Math.max(0, Math.min(start, frames - 1));
  const high = Math.min(frames, Math.max(low + 1, end));
  return reverse ? { start: frames - high, end: frames - low } : { start: low, end: high };
}

/** The course of a zone; a reversed one is planned on the mirrored sample. Without the sound its shape is right, its seams are not. */
export function courseOf(zone: ZoneReading, { frames }: SampleLayout, sound: FrameReader | null): Course {
  const { reverse } = zone;
  const loopOf = (loop: Loop | null): Loop | null => {
    if (!loop) return null;
    const mine = reverse ? loopMirrored(loop, frames) : loop;
    const valid = mine.end - mine.start >= 2 && mine.start >= 0 && mine.end <= frames;
    return valid ? settleLoop(mine, 0, frames) : null;
  };
  return planCourse({
    end: stretchOf(zone, frames).end,
    frames,
    loop: loopOf(zone.loop),
    releaseLoop: loopOf(zone.releaseLoop),
    sound,
  });
}

/** The stretches of a course that are computed beforehand, each once, and which of them each piece plays; −1: none. */
export function stretchesOf(course: Course): { stretches: Stretch[]; of: number[] } {
  const stretches: Stretch[] = [];
  const of = course.pieces.map(({ stretch }: Piece) => {
    if (!stretch) return -1;
    const { value, from, to } = stretch;
    const known = stretches.findIndex((s) => s.value === value && s.from === from && s.to === to);
    return known >= 0 ? known : stretches.push(stretch) - 1;
  });
  return { stretches, of };
}

/** Frames that a stretch takes, with what the kernels read on either side of it. */
const stretchFrames = ({ from, to }: Stretch): number => to - from + 2 * PAD;

/**
 * Computes the seams of a zone: one for each stretch of its course, its channels one after the other. It takes long where loops are short or their
 * crossfades long: not for the audio thread.
 */
export function bakeSeams(
  buffer: ArrayBuffer,
  sample: StoredSample,
  zone: ZoneReading,
): readonly Float32Array<ArrayBuffer>[] {
  const { frames } = sample;
  const readers = (sample.stereo ? [false, true] : [false]).map((right): FrameReader => {
    const read = frameReader(buffer, sample, right);
    return zone.reverse ? (frame) => read(frames - 1 - frame) : read;
  });
  const course = courseOf(zone, sample, readers[0] as FrameReader);
  return stretchesOf(course).stretches.map((stretch) => {
    const count = stretchFrames(stretch);
    const out = new Float32Array(count * readers.length);
    for (const [c, x] of readers.entries()) {
      for (let i = 0; i < count; i++) {
        const t = stretch.from - PAD + i;
        out[c * count + i] = t < 0 ? 0 : stretch.value(x, t);
      }
    }
    return out;
  });
}
