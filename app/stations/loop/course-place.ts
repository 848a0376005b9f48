import type { CourseLine, CoursePicture } from "./course";

/** Follows a playhead through a picture of its course: on which line it is, is told by how it has moved since it was last seen. */
export class CourseFollower {
  private line = -1;
  private last = Number.NaN;

  constructor(private readonly picture: CoursePicture) {}

  /** The moment of the picture (in its frames) at which a playhead at a frame stands, while its key is held or after; null where no line is there. */
  at(frame: number, held: boolean): number | null {
    const { lines } = this.picture;
    const by = Number.isNaN(this.last) ? 0 : frame - this.last;
    const current = lines[this.line];
    // As long as it goes on along its line it stays there; else it has gone round, or turned.
    if (!current || !holds(current, frame) || !fits(current, by)) this.line = this.next(frame, by, held);
    this.last = frame;
    const line = lines[this.line];
    return line && holds(line, frame) ? line.at + Math.abs(frame - line.from) : null;
  }

  /** The next line on which the playhead may be; of rounds that are no longer drawn the last. */
  private next(frame: number, by: number, held: boolean): number {
    const { lines } = this.picture;
    const wanted = held ? "held" : "after";
    const further = lines.findIndex((l, n) => n > this.line && l.kind === wanted && holds(l, frame));
    if (further >= 0) return further;
    const again = (suits: (line: CourseLine) => boolean) => lines.findLastIndex((l) => holds(l, frame) && suits(l));
    const turned = again((l) => l.kind === wanted && fits(l, by));
    if (turned >= 0) return turned;
    const leapt = again((l) => l.kind === wanted);
    return leapt >= 0 ? leapt : again((l) => l.kind !== "jump");
  }
}

const holds = ({ from, to, at, until }: CourseLine, frame: number): boolean =>
  until > at && frame >= Math.min(from, to) - 1 && frame <= Math.max(from, to) + 1;

/** Whether somebody on a line may have moved by so much. */
const fits = ({ from, to }: CourseLine, by: number): boolean => (to >= from ? by >= 0 : by <= 0);
