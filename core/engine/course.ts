import { LoopGain, type LoopTap, likenessOf, loopTap, periodOf, tapped } from "../dsp";
import type { Loop } from "../instrument";
import { withGain } from "./course-gain";
import { type FrameReader, PAD } from "./stored-sample";

/** Frames on either side of a seam that are read from its baked copy, so that the interpolation sees what is really played. */
const NEAR = PAD;
/** A sound that ends before its sample does fades over so many frames. */
const TAIL = 192;
/** Longest stretch that is computed beforehand for a short loop that ends after some times. */
const MOST_BAKED = 2 ** 20;

/** A stretch of sound computed beforehand: its value for a channel at a time, and the frame that is heard there. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly value: (x: FrameReader, t: number) => number;
  readonly frame: (t: number) => number;
}

/**
 * One uninterrupted part of a course through a sample. Time runs from 0 at frame 0; at `to` the course goes on in `next` (null:
 * it ends) at time + shift. It reads the sample itself, frame a + d × time, or a stretch computed beforehand.
 */
export interface Piece {
  readonly role: "main" | "down" | "back" | "other";
  readonly to: number;
  readonly raw: { readonly a: number; readonly d: 1 | -1 } | null;
  readonly stretch: Stretch | null;
  /** What the sample is multiplied by: at the piece's end, and by so much more for each frame before it. */
  readonly gain: number;
  readonly slope: number;
  next: Piece | null;
  shift: number;
}

const raw = (role: Piece["role"], to: number, a: number, d: 1 | -1): Piece => ({
  role,
  to,
  raw: { a, d },
  stretch: null,
  gain: 1,
  slope: 0,
  next: null,
  shift: 0,
});
const baked = (role: Piece["role"], stretch: Stretch): Piece => ({
  role,
  to: stretch.to,
  raw: null,
  stretch,
  gain: 1,
  slope: 0,
  next: null,
  shift: 0,
});

/** Lets pieces follow one another; returns the last. */
function chain(...steps: readonly (readonly [Piece, shift?: number])[]): Piece {
  for (let i = 1; i < steps.length; i++) {
    const before = steps[i - 1]?.[0];
    const step = steps[i];
    if (before && step) link(before, step[0], step[1] ?? 0);
  }
  return steps.at(-1)?.[0] as Piece;
}

function link(piece: Piece, next: Piece, shift: number): void {
  piece.next = next;
  piece.shift = shift;
}

/** What a zone plays, in frames counted in the direction of playing. */
interface Playback {
  /** One past the last frame that sounds, and the frames that there are. */
  readonly end: number;
  readonly frames: number;
  readonly loop: Loop | null;
  readonly releaseLoop: Loop | null;
  /** The first channel, by which crossfades are matched; null where only the course's shape is wanted. */
  readonly sound: FrameReader | null;
}

/** The pieces of a playback: the first `held` of them while the key is down, and as many again, place for place, that lead out. */
export interface Course {
  readonly pieces: readonly Piece[];
  readonly held: number;
  readonly twins: boolean;
  /** Whether it goes on for ever while the key is down. */
  readonly endless: boolean;
}

/** Plans the course of a playback. */
export function planCourse(play: Playback): Course {
  const gain = play.loop && play.loop.times !== 1 ? LoopGain.of(play.loop) : null;
  const course = planPieces(play, gain);
  return gain ? withGain(course, gain) : course;
}

/** A sound whose frames have the gain that they have outside crossfades. */
const leveled = (x: FrameReader, gain: LoopGain | null): FrameReader =>
  gain ? (frame) => gain.alone(frame) * x(frame) : x;

function planPieces(play: Playback, gain: LoopGain | null): Course {
  const { sound } = play;
  const loop = play.loop && play.loop.times !== 1 ? new Round(play.loop, sound, gain) : null;
  const release =
    play.releaseLoop && play.releaseLoop.times !== 1
      ? new Round(play.releaseLoop, sound && leveled(sound, gain), null, gain)
      : null;
  const entry = loop ? loop.course(() => finish(play, gain)) : finish(play, gain);
  const held = reach(entry);
  const endless = loop?.endless ?? false;
  if (!release && play.loop?.until !== "release") return { pieces: held, held: held.length, twins: false, endless };
  const after = release ? release.course(() => finish(play, gain)) : finish(play, gain);
  const twins = new Map<Piece, Piece>();
  for (const piece of held) twins.set(piece, { ...piece, next: null });
  for (const [piece, twin] of twins) {
    if (piece.role === "main") Object.assign(twin, { to: after.to, next: after.next, shift: after.shift });
    else if (loop?.leave(piece, twin, after)) continue;
    else if (piece.next)
      link(twin, piece.next.role === "main" ? after : (twins.get(piece.next) ?? piece.next), piece.shift);
  }
  const pieces = [...held];
  pieces.push(...held.map((piece) => twins.get(piece) ?? piece));
  const known = new Set(pieces);
  for (const piece of pieces) {
    for (const further of piece.next ? reach(piece.next) : []) {
      if (known.has(further)) continue;
      known.add(further);
      pieces.push(further);
    }
  }
  return { pieces, held: held.length, twins: true, endless };
}

/** All pieces that can be reached from one, itself first. */
function reach(entry: Piece): Piece[] {
  const found = new Set<Piece>();
  for (let piece: Piece | null = entry; piece && !found.has(piece); piece = piece.next) found.add(piece);
  return [...found];
}

/** Plays on to the end, with a fade where the sample goes on. */
function finish({ end, frames }: Playback, gain: LoopGain | null): Piece {
  if (end >= frames || end < TAIL + 2) return raw("main", end, 0, 1);
  const from = end - TAIL;
  const main = raw("main", from, 0, 1);
  const level = gain?.alone(end) ?? 1;
  const value = (x: FrameReader, t: number): number =>
    t >= end ? 0 : level * x(t) * (t < from ? 1 : 0.5 + 0.5 * Math.cos((Math.PI * (t - from)) / TAIL));
  link(main, baked("other", { from, to: end, value, frame: (t) => t }), 0);
  return main;
}

/** The courses of one loop. */
class Round {
  private readonly alike: number;
  private readonly tap: LoopTap = { frame: 0, weight: 1, other: 0, otherWeight: 0 };
  private readonly period: number;
  private readonly last: number;
  /** Time at which the first run down has reached the loop's start. */
  private readonly bottom: number;
  private readonly long: boolean;
  readonly endless: boolean;

  constructor(
    private readonly loop: Loop,
    sound: FrameReader | null,
    /** What keeps the loop even, and what another loop before it has left the level at. */
    private readonly gain: LoopGain | null,
    private readonly before: LoopGain | null = null,
  ) {
    const { start, end, fade, mode } = loop;
    this.alike = sound ? likenessOf(sound, loop) : 1;
    this.period = periodOf(loop);
    this.last = end - 1;
    this.bottom = 2 * this.last - start;
    this.endless = loop.times === 0;
    this.long = this.last - start > (mode === "backward" ? 2 : 1) * fade + 2 * NEAR + 2;
  }

  /** The course from the beginning of the sound, and after the loop's last time on with what `exit` gives. */
  course(exit: () => Piece): Piece {
    if (!this.long) return this.shortCourse(exit);
    const { mode, times } = this.loop;
    const { period } = this;
    const main = this.main();
    if (mode === "forward") {
      let seam = chain([main], [this.seam()]);
      for (let n = 2; n < times; n++) seam = chain([seam], [this.main(), -period], [this.seam()]);
      link(seam, times === 0 ? main : exit(), -period);
      return main;
    }
    if (mode === "alternating") {
      let up = chain([main], [this.turn()], [this.down(false)], [this.up()]);
      for (let lap = 2; lap <= times / 2; lap++) {
        up = chain([up], [this.main(), -period], [this.turn()], [this.down(false)], [this.up()]);
      }
      link(up, times === 0 ? main : exit(), -period);
      return main;
    }
    if (times === 0) {
      const down = this.down(true);
      link(chain([main], [this.turn()], [down], [this.seam()]), down, -period);
      return main;
    }
    let down = chain([main], [this.turn()], [this.down(times > 2)]);
    for (let n = 3; n <= times; n++) down = chain([down], [this.seam()], [this.down(n < times), -period]);
    this.goOut(down, exit());
    return main;
  }

  /** Leads a piece of the held course's twin out towards `exit`; false where it goes on as it would. */
  leave(piece: Piece, twin: Piece, exit: Piece): boolean {
    if (piece.role === "down" && this.loop.mode === "backward") {
      Object.assign(twin, { to: this.bottom - NEAR });
      this.goOut(twin, exit);
      return true;
    }
    if (piece.role === "back" && piece.next === piece) {
      this.shortExit(twin, piece.to, exit);
      return true;
    }
    return false;
  }

  /** From a run down: a turn at the loop's start, then forward. */
  private goOut(down: Piece, exit: Piece): void {
    const { bottom, last } = this;
    const { start } = this.loop;
    const frame = (t: number): number => (t <= bottom ? 2 * last - t : start + t - bottom);
    const turn = baked("other", {
      from: bottom - NEAR,
      to: bottom + NEAR,
      value: (x, t) => this.alone(x, frame(t)),
      frame,
    });
    chain([down], [turn], [exit, start - bottom]);
  }

  private main(): Piece {
    const { mode, end, fade } = this.loop;
    return raw("main", mode === "forward" ? end - fade - NEAR : this.last - NEAR, 0, 1);
  }
  private turn(): Piece {
    return baked("other", this.stretch(this.last - NEAR, this.last + this.loop.fade + NEAR));
  }
  private down(seamFollows: boolean): Piece {
    const to = seamFollows ? this.bottom - this.loop.fade - NEAR : this.bottom - NEAR;
    return raw("down", to, 2 * this.last, -1);
  }
  private up(): Piece {
    return baked("other", this.stretch(this.bottom - NEAR, this.bottom + this.loop.fade + NEAR));
  }
  private seam(): Piece {
    const { mode, end, fade } = this.loop;
    return baked(
      "other",
      mode === "forward"
        ? this.stretch(end - fade - NEAR, end + NEAR)
        : this.stretch(this.bottom - fade - NEAR, this.bottom + 1 + NEAR),
    );
  }

  private readonly value = (x: FrameReader, t: number): number => {
    const { tap } = this;
    loopTap(this.loop, this.alike, t, tap);
    return this.level(tap.frame) * tapped(x, tap, this.gain);
  };
  /** What the loop before it has left the level at. */
  private level(frame: number): number {
    return this.before ? this.before.alone(frame) : 1;
  }
  private alone(x: FrameReader, frame: number): number {
    return this.level(frame) * (this.gain ? this.gain.alone(frame) : 1) * x(frame);
  }
  private readonly frame = (t: number): number => {
    loopTap(this.loop, this.alike, Math.max(0, Math.floor(t)), this.tap);
    return this.tap.frame;
  };
  private stretch(from: number, to: number): Stretch {
    return { from, to, value: this.value, frame: this.frame };
  }

  /** A loop too short to be read from the sample is computed as it goes round, for at least a few hundred frames. */
  private shortCourse(exit: () => Piece): Piece {
    const { start, fade, mode, times } = this.loop;
    const { last, period } = this;
    const from = Math.max(0, (mode === "forward" ? this.loop.end - fade : last) - NEAR);
    const main = raw("main", from, 0, 1);
    if (times !== 0) {
      link(main, this.wayOut(from, this.outAfter(times), exit()), 0);
      return main;
    }
    const steady = (mode === "forward" ? start : mode === "alternating" ? start + fade : last + fade) + NEAR;
    const rounds = Math.ceil(256 / period);
    const to = Math.max(steady, from) + rounds * period;
    const round = baked("back", this.stretch(from, to));
    link(main, round, 0);
    link(round, round, -rounds * period);
    return main;
  }

  /** Time at which the last run forward through the loop begins, if it is played so many times. */
  private outAfter(times: number): number {
    const { start, end, mode } = this.loop;
    const { last, period } = this;
    const most = Math.max(2, Math.min(times, Math.floor(MOST_BAKED / period)));
    if (mode === "forward") return end + (most - 2) * period;
    if (mode === "alternating") return last + (last - start) + (Math.floor(most / 2) - 1) * period;
    return last + (most - 2) * period + (last - start);
  }

  private shortExit(twin: Piece, to: number, exit: Piece): void {
    const { start, end, mode } = this.loop;
    const { last, period } = this;
    const zero = mode === "forward" ? end : mode === "alternating" ? last + (last - start) : last;
    const begins = zero + Math.ceil((to - zero) / period) * period;
    link(twin, this.wayOut(to, mode === "backward" ? begins + (last - start) : begins, exit), 0);
  }

  /** From a time on as the loop goes, and at `out` (frame: the loop's start) forward and out of it. */
  private wayOut(from: number, out: number, exit: Piece): Piece {
    const { start, mode } = this.loop;
    const down = mode === "backward" ? out - (this.last - start) : out;
    const frame = (t: number): number =>
      t >= out ? start + t - out : t >= down ? this.last - (t - down) : this.frame(t);
    const piece = baked("other", {
      from,
      to: out + NEAR,
      value: (x, t) => (t >= down ? this.alone(x, frame(t)) : this.value(x, t)),
      frame,
    });
    link(piece, exit, start - out);
    return piece;
  }
}
