import { loopMirrored, type Zone } from "../../../core/instrument";

/** A stretch of a playback's course: from a frame at a time to a frame at a time (both in frames); `jump` where it leaps. */
export interface CourseLine {
  readonly from: number;
  readonly to: number;
  readonly at: number;
  readonly until: number;
  readonly kind: "held" | "jump" | "after";
}

export interface CoursePicture {
  readonly lines: readonly CourseLine[];
  /** When the key is let go in this picture; null where that changes nothing. */
  readonly letGo: number | null;
  /** How long all of it takes, in frames. */
  readonly total: number;
}

/** How much longer at the most one stretch is drawn than another: a long way to a short loop would leave no room for its rounds. */
const MOST = 4;

/**
 * Where moments of a picture lie from its upper edge (0) to its lower (1): later is lower, and what takes longer is drawn longer, though not in full measure
 * where stretches are of very different lengths.
 */
export function timeScale({ lines }: CoursePicture): (at: number) => number {
  const played = lines.filter((l) => l.until > l.at);
  const shortest = Math.min(...played.map((l) => l.until - l.at));
  const marks: { readonly at: number; readonly place: number }[] = [{ at: 0, place: 0 }];
  for (const { at, until } of played) {
    const drawn = Math.min(until - at, MOST * shortest);
    marks.push({ at: until, place: (marks.at(-1)?.place ?? 0) + drawn });
  }
  const whole = marks.at(-1)?.place || 1;
  return (at) => {
    const next = marks.findIndex((m) => m.at >= at);
    const [a, b] = [marks[Math.max(0, next - 1)], marks[next < 0 ? marks.length - 1 : next]];
    if (!a || !b) return 0;
    const share = b.at > a.at ? (Math.min(at, b.at) - a.at) / (b.at - a.at) : 1;
    return (a.place + share * (b.place - a.place)) / whole;
  };
}

/** Rounds of a loop without end that are drawn while the key is down. */
const ROUNDS = 4;

/** Follows a course and writes down where it goes. */
class Pen {
  readonly lines: CourseLine[] = [];
  at = 0;
  kind: "held" | "after" = "held";

  constructor(private frame: number) {}

  to(frame: number): void {
    const until = this.at + Math.abs(frame - this.frame);
    if (until > this.at) this.lines.push({ from: this.frame, to: frame, at: this.at, until, kind: this.kind });
    this.at = until;
    this.frame = frame;
  }

  leap(frame: number): void {
    this.lines.push({ from: this.frame, to: frame, at: this.at, until: this.at, kind: "jump" });
    this.frame = frame;
  }
}

type Round = NonNullable<Zone["loop"]>;

/** Goes round a loop once more, from where the round before has ended. */
function round(pen: Pen, { start, end, mode }: Round, forth: boolean): void {
  if (mode === "forward") {
    pen.leap(start);
    pen.to(end);
  } else if (mode === "alternating") pen.to(forth ? end : start);
  else {
    if (forth) pen.leap(end);
    pen.to(start);
  }
}

/** How often the part of a loop is played in the picture. */
const roundsOf = ({ times, mode }: Round): number => {
  const rounds = times === 0 ? ROUNDS : Math.min(times, ROUNDS);
  return mode === "alternating" && times === 0 ? 2 * rounds - 1 : rounds;
};

/**
 * The course of a zone's playback as it is drawn: to the right through the sound, down through time; a loop without end goes a few times round before the key
 * is let go, then what comes after.
 */
export function coursePicture(zone: Zone): CoursePicture {
  if (!zone.reverse) return forwardPicture(zone);
  // Played from its end to its start: the picture of the mirrored sound, mirrored.
  const whole = zone.start + zone.end;
  const picture = forwardPicture({
    ...zone,
    loop: zone.loop && loopMirrored(zone.loop, whole),
    releaseLoop: zone.releaseLoop && loopMirrored(zone.releaseLoop, whole),
  });
  return { ...picture, lines: picture.lines.map((l) => ({ ...l, from: whole - l.from, to: whole - l.to })) };
}

function forwardPicture(zone: Zone): CoursePicture {
  const { loop, releaseLoop } = zone;
  const pen = new Pen(zone.start);
  let letGo: number | null = null;
  if (loop && loop.times !== 1) {
    pen.to(loop.end);
    const rounds = roundsOf(loop);
    for (let n = 1; n < rounds; n++) round(pen, loop, loop.mode === "alternating" ? n % 2 === 0 : n > 1);
    const endless = loop.times === 0;
    if (endless || releaseLoop) letGo = pen.at;
    if (endless && loop.until === "end" && !releaseLoop) {
      // It goes on round the loop while it fades out.
      pen.kind = "after";
      round(pen, loop, loop.mode !== "alternating" || rounds % 2 === 0);
      return { lines: pen.lines, letGo, total: pen.at };
    }
    pen.kind = letGo === null ? "held" : "after";
  } else if (releaseLoop) letGo = pen.at;
  if (releaseLoop && releaseLoop.times !== 1) {
    pen.kind = "after";
    pen.to(releaseLoop.end);
    const rounds = roundsOf(releaseLoop);
    for (let n = 1; n < rounds; n++) round(pen, releaseLoop, releaseLoop.mode === "alternating" ? n % 2 === 0 : n > 1);
    if (releaseLoop.times === 0) return { lines: pen.lines, letGo, total: pen.at };
  }
  pen.to(zone.end);
  return { lines: pen.lines, letGo, total: Math.max(1, pen.at) };
}
