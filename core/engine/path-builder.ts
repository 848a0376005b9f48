import {
  FLOAT32,
  SPAN_BYTES,
  SPAN_FORMAT,
  SPAN_JUMP,
  SPAN_LEFT,
  SPAN_LEFT_LOW,
  SPAN_LIMIT,
  SPAN_MASK,
  SPAN_MIRROR,
  SPAN_NEXT,
  SPAN_RIGHT,
  SPAN_RIGHT_LOW,
} from "../dsp";
import { type Loop, settleLoop, type Zone } from "../instrument";
import { type Piece, planCourse, type Stretch } from "./course";
import type { Heap } from "./heap";
import { type FrameReader, frameReader, PAD, type StoredSample } from "./stored-sample";

/** Positions are frames plus this, so that one that runs backward past frame 0 stays positive. */
const BIAS = 65536;

/** How a zone is read: its spans in the kernels' memory, and what belongs to them. */
export interface Path {
  readonly key: string;
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

/** Lays the spans of a zone out in the kernels' memory. A reversed zone is planned on the mirrored sample. */
export function buildPath(heap: Heap, sample: StoredSample, zone: Zone, key: string): Path {
  const { frames } = sample;
  const { reverse } = zone;
  const low = Math.max(0, Math.min(zone.start, frames - 1));
  const high = Math.min(frames, Math.max(low + 1, zone.end));
  const start = reverse ? frames - high : low;
  const end = reverse ? frames - low : high;
  const stereo = sample.right !== sample.left;
  // Memory that grows moves nothing, but the views of it are new: each reader is made when it is needed.
  const reader = (right: boolean): FrameReader => {
    const read = frameReader(heap, sample, right);
    return reverse ? (frame) => read(frames - 1 - frame) : read;
  };
  const loopOf = (loop: Loop | null): Loop | null => {
    if (!loop) return null;
    const mine = reverse ? { ...loop, start: frames - loop.end, end: frames - loop.start } : loop;
    const valid = mine.end - mine.start >= 2 && mine.start >= 0 && mine.end <= frames;
    return valid ? settleLoop(mine, 0, frames) : null;
  };
  const course = planCourse({
    end,
    frames,
    loop: loopOf(zone.loop),
    releaseLoop: loopOf(zone.releaseLoop),
    sound: reader(false),
  });

  const held: number[] = [];
  const computed = new Map<string, { left: number; right: number }>();
  const compute = (stretch: Stretch, id: string): { left: number; right: number } => {
    const known = computed.get(id);
    if (known) return known;
    const count = stretch.to - stretch.from + 2 * PAD;
    const base = heap.allocate(count * 4 * (stereo ? 2 : 1));
    held.push(base);
    (stereo ? [false, true] : [false]).forEach((right, c) => {
      const x = reader(right);
      const out = heap.f32.subarray(base / 4 + c * count, base / 4 + (c + 1) * count);
      for (let i = 0; i < count; i++) {
        const t = stretch.from - PAD + i;
        out[i] = t < 0 ? 0 : stretch.value(x, t);
      }
    });
    const left = base - (BIAS - PAD) * 4;
    const made = { left, right: stereo ? left + count * 4 : left };
    computed.set(id, made);
    return made;
  };
  const placeOf = (piece: Piece): Place => {
    if (piece.stretch) return { a: BIAS - piece.stretch.from, d: 1 };
    const { a, d } = piece.raw ?? { a: 0, d: 1 };
    return reverse ? { a: BIAS + frames - 1 - a, d: d === 1 ? -1 : 1 } : { a: BIAS + a, d };
  };

  const block = heap.allocate(course.pieces.length * SPAN_BYTES);
  held.push(block);
  const addressOf = new Map(course.pieces.map((piece, i) => [piece, block + i * SPAN_BYTES]));
  const baseOf = (address: number, bytes: number): number => (address === 0 ? 0 : address - BIAS * bytes);
  course.pieces.forEach((piece, i) => {
    const at = block + i * SPAN_BYTES;
    const { a, d } = placeOf(piece);
    const seam = piece.stretch && compute(piece.stretch, stretchId(piece.stretch, course.pieces));
    const bytes = sample.format === FLOAT32 ? 4 : 2;
    // Memory that grows moves nothing, but the views of it are new.
    const { u32, i32 } = heap;
    u32[(at + SPAN_LEFT) / 4] = seam ? seam.left : baseOf(sample.left, bytes);
    u32[(at + SPAN_RIGHT) / 4] = seam ? seam.right : baseOf(sample.right, bytes);
    u32[(at + SPAN_LEFT_LOW) / 4] = seam ? 0 : baseOf(sample.leftLow, 1);
    u32[(at + SPAN_RIGHT_LOW) / 4] = seam ? 0 : baseOf(sample.rightLow, 1);
    u32[(at + SPAN_FORMAT) / 4] = seam ? FLOAT32 : sample.format;
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

  return {
    key,
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

/** Stretches of the same sound are computed once. */
function stretchId(stretch: Stretch, pieces: readonly Piece[]): string {
  const first = pieces.findIndex(
    (p) =>
      p.stretch && p.stretch.value === stretch.value && p.stretch.from === stretch.from && p.stretch.to === stretch.to,
  );
  return String(first);
}
