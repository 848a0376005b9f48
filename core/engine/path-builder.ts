import {
  FLOAT32,
  SPAN_BYTES,
  SPAN_FORMAT,
  SPAN_GAIN,
  SPAN_JUMP,
  SPAN_LEFT,
  SPAN_LEFT_LOW,
  SPAN_LIMIT,
  SPAN_MASK,
  SPAN_MIRROR,
  SPAN_NEXT,
  SPAN_RIGHT,
  SPAN_RIGHT_LOW,
  SPAN_SLOPE,
} from "../dsp";
import type { Piece } from "./course";
import type { Heap } from "./heap";
import { PAD, type StoredSample } from "./stored-sample";
import { courseOf, stretchesOf, stretchOf, type ZoneReading } from "./zone-reading";

/** Positions are frames plus this, so that one that runs backward past frame 0 stays positive. */
const BIAS = 65536;

/** How a zone is read: its spans in the kernels' memory, and what belongs to them. */
export interface Path {
  readonly sample: StoredSample;
  /** Address of the first span. */
  readonly first: number;
  /** Added to a span's address: the span that takes its place once the key is let go; 0 where letting go changes nothing. */
  readonly twin: number;
  /** The spans before this address have twins. */
  readonly twinned: number;
  readonly rate: number;
  /** Whether it goes on for ever while the key is down. */
  readonly endless: boolean;
  /** Position of the first frame, and what a position grows by with each frame (±1). */
  readonly start: number;
  readonly direction: 1 | -1;
  /** Frames from the first to the end. */
  readonly length: number;
  /** Frame of the sample that is heard at a position of a span. */
  readonly frameAt: (span: number, position: number) => number;
  readonly held: readonly number[];
}

/** Where a span's positions stand to the course's time: position = a + d × time. */
interface Place {
  readonly a: number;
  readonly d: 1 | -1;
}

/** Lays the spans of a zone out in the kernels' memory, with its seams as `bakeSeams` made them. A reversed zone is planned on the mirrored sample. */
export function layPath(heap: Heap, sample: StoredSample, zone: ZoneReading, seams: readonly Float32Array[]): Path {
  const { frames } = sample;
  const { reverse } = zone;
  const { start, end } = stretchOf(zone, frames);
  const course = courseOf(zone, sample, null);
  const { stretches, of } = stretchesOf(course);
  if (seams.length !== stretches.length) throw new RangeError("the seams are those of another zone");
  const held: number[] = [];
  const laid = seams.map((seam) => {
    const base = heap.allocate(seam.byteLength);
    held.push(base);
    heap.f32.set(seam, base / 4);
    const left = base - (BIAS - PAD) * 4;
    return { left, right: sample.stereo ? left + seam.byteLength / 2 : left };
  });
  const placeOf = (piece: Piece): Place => {
    if (piece.stretch) return { a: BIAS - piece.stretch.from, d: 1 };
    const { a, d } = piece.raw ?? { a: 0, d: 1 };
    return reverse ? { a: BIAS + frames - 1 - a, d: d === 1 ? -1 : 1 } : { a: BIAS + a, d };
  };

  const block = heap.allocate(course.pieces.length * SPAN_BYTES);
  held.push(block);
  const addressOf = new Map(course.pieces.map((piece, i) => [piece, block + i * SPAN_BYTES]));
  const baseOf = (address: number, bytes: number): number => (address === 0 ? 0 : address - BIAS * bytes);
  const { f32, u32, i32 } = heap;
  course.pieces.forEach((piece, i) => {
    const at = block + i * SPAN_BYTES;
    const { a, d } = placeOf(piece);
    const seam = laid[of[i] as number];
    const bytes = sample.format === FLOAT32 ? 4 : 2;
    u32[(at + SPAN_LEFT) / 4] = seam ? seam.left : baseOf(sample.left, bytes);
    u32[(at + SPAN_RIGHT) / 4] = seam ? seam.right : baseOf(sample.right, bytes);
    u32[(at + SPAN_LEFT_LOW) / 4] = seam ? 0 : baseOf(sample.leftLow, 1);
    u32[(at + SPAN_RIGHT_LOW) / 4] = seam ? 0 : baseOf(sample.rightLow, 1);
    u32[(at + SPAN_FORMAT) / 4] = seam ? FLOAT32 : sample.format;
    f32[(at + SPAN_GAIN) / 4] = piece.gain;
    f32[(at + SPAN_SLOPE) / 4] = piece.slope;
    const limit = a + d * piece.to;
    u32[(at + SPAN_MASK) / 4] = d === 1 ? 0 : 0xffffffff;
    u32[(at + SPAN_LIMIT) / 4] = d === 1 ? Math.max(0, limit) : ~(piece.next ? limit - 1 : limit);
    const { next } = piece;
    u32[(at + SPAN_NEXT) / 4] = (next && addressOf.get(next)) ?? 0;
    if (!next) return;
    const then = placeOf(next);
    const mirror = then.d !== d;
    i32[(at + SPAN_MIRROR) / 4] = mirror ? 1 : 0;
    i32[(at + SPAN_JUMP) / 4] = mirror ? then.a + a + then.d * piece.shift : then.a - a + then.d * piece.shift;
  });

  sample.readers++;
  return {
    sample,
    first: block,
    twin: course.twins ? course.held * SPAN_BYTES : 0,
    twinned: block + course.held * SPAN_BYTES,
    rate: sample.rate,
    endless: course.endless,
    start: reverse ? BIAS + frames - 1 - start : BIAS + start,
    direction: reverse ? -1 : 1,
    length: end - start,
    frameAt: (span, position) => {
      const piece = course.pieces[(span - block) / SPAN_BYTES];
      if (!piece) return 0;
      const { a, d } = placeOf(piece);
      const frame = piece.stretch ? piece.stretch.frame((position - a) * d) : position - BIAS;
      return piece.stretch && reverse ? frames - 1 - frame : frame;
    },
    held,
  };
}
