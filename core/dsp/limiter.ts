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
  /** Smallest gain and largest peaks of what left it, since they were last read and set back to 1 and 0. */
  lowest = 1;
  peakLeft = 0;
  peakRight = 0;
  private left = 0;
  private right = 0;

  constructor(rate: Hertz) {
    this.recover = 1 - Math.exp(-1 / (0.08 * rate));
  }

  /** Limits two channels in place and takes their peaks. While nothing is loud it only looks. */
  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    this.look(left, right, from, to);
    if (this.gain < 1 || this.left > Limiter.CEILING || this.right > Limiter.CEILING) {
      this.limit(left, right, from, to);
      this.look(left, right, from, to);
    }
    if (this.left > this.peakLeft) this.peakLeft = this.left;
    if (this.right > this.peakRight) this.peakRight = this.right;
  }

  private look(left: Float32Array, right: Float32Array, from: number, to: number): void {
    let l = 0;
    let r = 0;
    for (let i = from; i < to; i++) {
      const x = Math.abs(left[i] as number);
      const y = Math.abs(right[i] as number);
      if (x > l) l = x;
      if (y > r) r = y;
    }
    this.left = l;
    this.right = r;
  }

  private limit(left: Float32Array, right: Float32Array, from: number, to: number): void {
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
