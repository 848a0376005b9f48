import type { Seconds } from "../audio";
import { type BentLine, lineAt } from "./bend";

/** Envelopes of many voices through points of one's own, with a part that goes round, or a point that holds, while the key is down. */
export class PathBank {
  readonly level: Float64Array;
  private readonly at: Float64Array;
  private readonly released: Uint8Array;

  constructor(size: number) {
    this.level = new Float64Array(size);
    this.at = new Float64Array(size);
    this.released = new Uint8Array(size);
  }

  start(v: number): void {
    this.at[v] = 0;
    this.released[v] = 0;
  }

  release(v: number): void {
    this.released[v] = 1;
  }

  copy(from: number, to: number): void {
    this.at[to] = this.at[from] as number;
    this.released[to] = this.released[from] as number;
    this.level[to] = this.level[from] as number;
  }

  /**
   * Advances one voice and returns its level. `first` and `last` (points from 1; 0 is none) bound what goes round while held;
   * with only `last` the course stops there; x of the line is in seconds at speed 1.
   */
  advance(v: number, time: Seconds, line: BentLine, speed: number, first: number, last: number): number {
    let at = (this.at[v] as number) + time * speed;
    if (this.released[v] === 0 && last > 0) {
      const to = line.x[Math.min(last, line.x.length) - 1] ?? 0;
      const from = first > 0 ? (line.x[Math.min(first, line.x.length) - 1] ?? 0) : to;
      if (at >= to) at = to > from ? from + ((at - from) % (to - from)) : to;
    }
    this.at[v] = at;
    const level = lineAt(line, at);
    this.level[v] = level;
    return level;
  }
}
