/** A line of past values, read at any distance. */
export class DelayLine {
  private readonly values: Float32Array;
  private readonly mask: number;
  private at = 0;

  /** `frames`: the longest distance. */
  constructor(frames: number) {
    const size = 2 ** Math.ceil(Math.log2(frames + 4));
    this.values = new Float32Array(size);
    this.mask = size - 1;
  }

  write(x: number): void {
    this.at = (this.at + 1) & this.mask;
    this.values[this.at] = x;
  }

  /** The value so many whole frames ago; 0 is what was written last. */
  ago(frames: number): number {
    return this.values[(this.at - frames) & this.mask] as number;
  }

  /** The value a distance ago that needn't be whole (at least 1), by a cubic through four values (Lagrange). */
  between(distance: number): number {
    const whole = Math.floor(distance);
    const t = distance - whole;
    const a = this.ago(whole - 1);
    const b = this.ago(whole);
    const c = this.ago(whole + 1);
    const d = this.ago(whole + 2);
    // The cubic that takes these values at −1, 0, 1 and 2.
    const c1 = c - a / 3 - b / 2 - d / 6;
    const c2 = (a + c) / 2 - b;
    const c3 = (d - a) / 6 + (b - c) / 2;
    return ((c3 * t + c2) * t + c1) * t + b;
  }

  clear(): void {
    this.values.fill(0);
  }
}
