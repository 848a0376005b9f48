import type { Decibels, Hertz } from "../audio";
import { levelTrack, SILENT, STEP, smoothTrack } from "./region";

/** Seconds over which a sound's movement is taken, and from one such stretch to the next. */
const OVER = 2;
const APART = 0.25;

/**
 * How a sound lives: how far its level, and the difference of its left and right, swing about a straight line. A loop that takes a moment of that goes
 * round without it.
 */
export class Movement {
  private readonly tracks: readonly Float64Array[];
  private readonly step: number;

  /** Of frames `[from, to)`. */
  constructor(
    channels: readonly Float32Array[],
    rate: Hertz,
    private readonly from: number,
    to: number,
  ) {
    this.step = Math.max(1, Math.round(rate * STEP));
    const level = smoothTrack(levelTrack(channels, rate, from, to));
    const sides = channels.slice(0, 2).map((x) => smoothTrack(levelTrack([x], rate, from, to)));
    const [left, right] = sides;
    this.tracks = left && right ? [level, balanceOf(left, right)] : [level];
  }

  /** The usual swing of each track between two frames, in decibels: of stretches of two seconds the middle one; of less the whole, as it goes round. */
  between(start: number, end: number): readonly Decibels[] {
    const a = Math.max(0, Math.round((start - this.from) / this.step));
    const b = Math.round((end - this.from) / this.step);
    const over = Math.round(OVER / STEP);
    return this.tracks.map((track) => {
      const part = track.subarray(a, Math.max(a + 1, b));
      if (part.length <= over) return swing(part);
      const found: number[] = [];
      for (let at = 0; at + over <= part.length; at += Math.round(APART / STEP))
        found.push(swing(straightened(part.subarray(at, at + over))));
      return found.sort((x, y) => x - y)[found.length >> 1] as number;
    });
  }

  /** The same of all of it, whatever it rises or falls by. */
  get own(): readonly Decibels[] {
    const whole = this.tracks[0]?.length ?? 0;
    if (whole > OVER / STEP) return this.between(this.from, this.from + whole * this.step);
    return this.tracks.map((track) => swing(straightened(track)));
  }
}

/** Left against right, in decibels; as it was where both are silent. */
function balanceOf(left: Float64Array, right: Float64Array): Float64Array {
  let last = 0;
  return left.map((l, i) => {
    const r = right[i] as number;
    if (Math.max(l, r) > SILENT) last = Math.max(l, SILENT) - Math.max(r, SILENT);
    return last;
  });
}

/** From the level above which all but one in twenty lie to that below which all but one in twenty lie. */
function swing(levels: Float64Array): Decibels {
  if (levels.length < 2) return 0;
  const sorted = levels.slice().sort();
  const at = (share: number) => sorted[Math.round((sorted.length - 1) * share)] as number;
  return at(0.95) - at(0.05);
}

/** Levels without the straight line (least squares) that they follow. */
export function straightened(levels: Float64Array): Float64Array {
  const { middle, mean, slope } = lineOf(levels, 0, levels.length);
  return levels.map((level, i) => level - mean - slope * (i - middle));
}

/** The straight line through levels `[from, to)`: its value in their middle, and what it rises by from one to the next. */
export function lineOf(levels: Float64Array, from: number, to: number) {
  const middle = (from + to - 1) / 2;
  let mean = 0;
  for (let i = from; i < to; i++) mean += levels[i] as number;
  mean /= Math.max(1, to - from);
  let xy = 0;
  let xx = 0;
  for (let i = from; i < to; i++) {
    xy += (i - middle) * ((levels[i] as number) - mean);
    xx += (i - middle) ** 2;
  }
  return { middle, mean, slope: xx > 0 ? xy / xx : 0 };
}
