/** An all-pass of Schroeder (1962). */
export class Diffuser {
  private readonly values: Float32Array;
  private readonly mask: number;
  private at = 0;

  constructor(frames: number) {
    const size = 2 ** Math.ceil(Math.log2(frames + 2));
    this.values = new Float32Array(size);
    this.mask = size - 1;
  }

  next(x: number, frames: number, gain: number): number {
    const back = this.values[(this.at - frames) & this.mask] as number;
    const inside = x + gain * back;
    this.values[this.at & this.mask] = inside;
    this.at++;
    return back - gain * inside;
  }

  clear(): void {
    this.values.fill(0);
  }
}
