import type { LoopGain } from "../dsp";
import type { Course, Piece } from "./course";

/**
 * The course with its pieces cut where a gain turns, each with the gain of its part. Those that are held and those that lead out stay place for place: where
 * one of them has fewer parts than the other its last stands again.
 */
export function withGain(course: Course, gain: LoopGain): Course {
  const turns = gain.turns();
  const cut = course.pieces.map((piece) => parts(piece, turns, gain));
  const partsOf = new Map(course.pieces.map((piece, i) => [piece, cut[i] as Piece[]]));
  course.pieces.forEach((piece, i) => {
    const own = cut[i] as Piece[];
    own.forEach((part, n) => {
      const following = own[n + 1];
      if (following) {
        part.next = following;
        part.shift = 0;
      } else leadOn(part, piece, partsOf);
    });
  });
  if (course.twins) {
    for (let i = 0; i < course.held; i++) {
      const [own, twin] = [cut[i] as Piece[], cut[course.held + i] as Piece[]];
      while (own.length < twin.length) own.push({ ...(own.at(-1) as Piece) });
      while (twin.length < own.length) twin.push({ ...(twin.at(-1) as Piece) });
    }
  }
  const held = cut.slice(0, course.held).flat().length;
  return { ...course, pieces: cut.flat(), held };
}

/** Lets a part go on where its piece does: in that part of the next piece in which it arrives. */
function leadOn(part: Piece, piece: Piece, partsOf: ReadonlyMap<Piece, readonly Piece[]>): void {
  const { next, shift, to } = piece;
  const following = next && partsOf.get(next);
  part.shift = shift;
  part.next = following ? (following.find((p) => p.to > to + shift) ?? following.at(-1) ?? null) : null;
}

/** A piece cut at the times at which it reads a frame where the gain turns. */
function parts(piece: Piece, turns: readonly number[], gain: LoopGain): Piece[] {
  const { raw, to } = piece;
  if (!raw) return [{ ...piece }];
  const { a, d } = raw;
  const times = turns
    .map((frame) => d * (frame - a))
    .sort((s, t) => s - t)
    .filter((t) => t < to);
  const gainAt = (t: number): number => gain.alone(a + d * t);
  return [...times, to].map((until, n) => {
    const from = times[n - 1];
    const end = gainAt(until);
    // What lies before the first turn and behind the last is level.
    const slope = from === undefined || until === from ? 0 : (gainAt(from) - end) / (until - from);
    return { ...piece, to: until, gain: end, slope };
  });
}
