import type { Hertz } from "../../audio";

/** A filter of 6 dB per octave, trapezoidal (Zavalishin, 2012): its low pass, and what that leaves. */
export class OnePole {
  private share = 1;
  private state = 0;

  constructor(private readonly rate: number) {}

  tune(cutoff: Hertz): void {
    const g = Math.tan(Math.PI * Math.min(0.49, cutoff / this.rate));
    this.share = g / (1 + g);
  }

  low(x: number): number {
    const v = (x - this.state) * this.share;
    const y = v + this.state;
    this.state = y + v;
    return y;
  }

  high(x: number): number {
    return x - this.low(x);
  }

  reset(): void {
    this.state = 0;
  }
}
