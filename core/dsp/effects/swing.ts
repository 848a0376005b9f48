import type { Hertz } from "../../audio";
import { CONTROL } from "../kernels/layout";

/** A slow movement that is looked at every 32 frames: a phase in cycles. */
export class Swing {
  phase = 0;
  private step = 0;

  constructor(private readonly rate: Hertz) {}

  tune(frequency: Hertz): void {
    this.step = (frequency * CONTROL) / this.rate;
  }

  /** Moves on by one control step. */
  advance(): void {
    this.phase += this.step;
    if (this.phase >= 1) this.phase -= Math.floor(this.phase);
  }

  reset(): void {
    this.phase = 0;
  }

  /** Sine at a distance (in cycles) from where it is. */
  sine(apart: number): number {
    return Math.sin(2 * Math.PI * (this.phase + apart));
  }
}
