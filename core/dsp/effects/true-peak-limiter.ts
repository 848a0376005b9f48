import { type Decibels, gainOf, type Hertz, type Seconds } from "../../audio";
import { Ramp } from "./ramp";

/** How far ahead it looks. */
const AHEAD_SECONDS = 0.0025;
/** Values between two frames that are looked at, and the taps by which they are found (ITU-R BS.1770-4, annex 2, by a longer filter: within 0.1 dB up to 20 kHz). */
const PHASES = 4;
const TAPS = 24;
/** Taken off the ceiling for what four values between frames may miss. */
const MARGIN: Decibels = 0.2;

/** A windowed sinc for each of the values between two frames. */
const TABLE = (() => {
  const table = new Float64Array(PHASES * TAPS);
  for (let p = 0; p < PHASES; p++) {
    let sum = 0;
    for (let t = 0; t < TAPS; t++) {
      const x = t - (TAPS / 2 - 1) - p / PHASES;
      const window = 0.5 + 0.5 * Math.cos((Math.PI * x) / (TAPS / 2));
      const value = (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)) * window;
      table[p * TAPS + t] = value;
      sum += value;
    }
    for (let t = 0; t < TAPS; t++) table[p * TAPS + t] = (table[p * TAPS + t] as number) / sum;
  }
  return table;
})();

/** So many times as loud as the loudest of them may be what stands between frames. */
const BETWEEN = Math.max(
  ...Array.from({ length: PHASES }, (_, p) =>
    TABLE.slice(p * TAPS, (p + 1) * TAPS).reduce((sum, v) => sum + Math.abs(v), 0),
  ),
);

/**
 * Keeps the true peak, also between frames, below a ceiling: the gain that each frame asks for, the smallest of those that are looked ahead at, and their mean over
 * as long, so that it has arrived when the peak does (a feed-forward peak limiter with look-ahead after Giannoulis, Massberg and Reiss, 2012; Lemire, 2006, on the
 * smallest of a window). It delays by its look-ahead.
 */
export class TruePeakLimiter {
  readonly ring: number;
  private readonly ahead: number;
  private readonly mask: number;
  private readonly left: Float32Array;
  private readonly right: Float32Array;
  /** Gains asked for, by frames, and the frames of those that may still be the smallest, in rising order of gain. */
  private readonly asked: Float64Array;
  private readonly queue: Int32Array;
  private first = 0;
  private count = 0;
  /** The smallest of each window, and the sum of the last `ahead` of them. */
  private readonly lowest: Float64Array;
  private sum: number;
  private at = 0;
  private held = 1;
  /** Frames for which a loud one is still among those by which peaks are found. */
  private loud = 0;
  private recover = 1;
  private readonly drive = new Ramp();
  private ceiling = 1;
  private wanted = 1;

  constructor(private readonly rate: Hertz) {
    this.ahead = Math.max(1, Math.round(AHEAD_SECONDS * rate));
    const size = 2 ** Math.ceil(Math.log2(2 * this.ahead + TAPS + 4));
    this.mask = size - 1;
    this.left = new Float32Array(size);
    this.right = new Float32Array(size);
    this.asked = new Float64Array(size).fill(1);
    this.queue = new Int32Array(size);
    this.lowest = new Float64Array(size).fill(1);
    this.sum = this.ahead;
    this.ring = 2 * this.ahead + TAPS;
  }

  tune(drive: Decibels, ceiling: Decibels, release: Seconds): void {
    this.drive.aim(gainOf(drive));
    this.wanted = gainOf(ceiling - MARGIN);
    this.recover = 1 - Math.exp(-1 / (Math.max(0.001, release) * this.rate));
  }

  /** Largest magnitude of a channel around a frame, between it and the next too. */
  private peakAt(x: Float32Array, at: number): number {
    const { mask } = this;
    const from = at - (TAPS / 2 - 1);
    let most = 0;
    for (let p = 0; p < PHASES; p++) {
      let sum = 0;
      for (let t = 0; t < TAPS; t++) sum += (TABLE[p * TAPS + t] as number) * (x[(from + t) & mask] as number);
      if (sum < 0) sum = -sum;
      if (sum > most) most = sum;
    }
    return most;
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { mask, ahead, asked, queue, lowest } = this;
    let { at, first, count, held, sum, ceiling, loud } = this;
    for (let i = from; i < to; i++) {
      const drive = this.drive.next();
      ceiling += 0.002 * (this.wanted - ceiling);
      this.left[at & mask] = (left[i] as number) * drive;
      this.right[at & mask] = (right[i] as number) * drive;
      // What stands between frames is known once those behind it have come. Where all around it are soft it needn't be looked for.
      const known = at - TAPS / 2;
      if (
        Math.max(Math.abs(this.left[at & mask] as number), Math.abs(this.right[at & mask] as number)) * BETWEEN >
        ceiling
      )
        loud = TAPS + 1;
      const peak = loud > 0 ? Math.max(this.peakAt(this.left, known), this.peakAt(this.right, known)) : 0;
      if (loud > 0) loud--;
      held += this.recover * (1 - held);
      if (held > 0.999999) held = 1;
      const gain = peak * held > ceiling ? ceiling / peak : held;
      held = gain;
      asked[known & mask] = gain;
      while (count > 0 && (asked[(queue[(first + count - 1) & mask] as number) & mask] as number) >= gain) count--;
      queue[(first + count) & mask] = known;
      count++;
      while ((queue[first & mask] as number) <= known - ahead) {
        first++;
        count--;
      }
      const least = asked[(queue[first & mask] as number) & mask] as number;
      sum += least - (lowest[(at - ahead) & mask] as number);
      lowest[at & mask] = least;
      const mean = sum / ahead;
      const out = (known - ahead + 1) & mask;
      left[i] = (this.left[out] as number) * mean;
      right[i] = (this.right[out] as number) * mean;
      at++;
    }
    this.at = at;
    this.first = first & mask;
    this.count = count;
    this.held = held;
    // The sum of what was added and taken off again: its roundings don't grow beyond what they are here.
    this.sum = sum;
    this.ceiling = ceiling;
    this.loud = loud;
  }

  reset(): void {
    this.left.fill(0);
    this.right.fill(0);
    this.asked.fill(1);
    this.lowest.fill(1);
    this.sum = this.ahead;
    this.first = 0;
    this.count = 0;
    this.held = 1;
    this.loud = 0;
    this.at = 0;
  }
}
