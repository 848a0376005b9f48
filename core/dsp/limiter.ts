import { gainOf, type Hertz } from "../audio";

/**
 * The guard at the output: no sample leaves above the ceiling. The gain falls at once and recovers within 80 ms (a feed-forward
 * peak limiter after Giannoulis, Massberg and Reiss, 2012, without look-ahead, so that it delays nothing).
 */
export class Limiter {
  /** −0.3 dBFS. */
  static readonly CEILING = gainOf(-0.3);
  private gain = 1;
  private readonly recover: number;
  /** Smallest gain since it was last read and set back to 1. */
  lowest = 1;

  constructor(rate: Hertz) {
    this.recover = 1 - Math.exp(-1 / (0.08 * rate));
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const ceiling = Limiter.CEILING;
    const { recover } = this;
    let { gain, lowest } = this;
    for (let i = from; i < to; i++) {
      const l = left[i] as number;
      const r = right[i] as number;
      const peak = Math.max(l < 0 ? -l : l, r < 0 ? -r : r);
      gain += recover * (1 - gain);
      if (gain > 0.999999) gain = 1;
      if (peak * gain > ceiling) gain = ceiling / peak;
      if (gain < lowest) lowest = gain;
      if (gain < 1) {
        const a = l * gain;
        const b = r * gain;
        left[i] = a > ceiling ? ceiling : a < -ceiling ? -ceiling : a;
        right[i] = b > ceiling ? ceiling : b < -ceiling ? -ceiling : b;
      }
    }
    this.gain = gain;
    this.lowest = lowest;
  }

  reset(): void {
    this.gain = 1;
    this.lowest = 1;
  }
}
