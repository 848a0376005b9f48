import type { Hertz } from "../../audio";
import { Ramp } from "./ramp";

/** Fewer steps and fewer frames: each value is held as long as a lower rate would, and rounded to so many bits. It aliases, as it is meant to. */
export class Crusher {
  readonly ring: number;
  private readonly mix = new Ramp();
  private bits = 16;
  private frequency = 48000;
  private phase = 1;
  private heldLeft = 0;
  private heldRight = 0;

  constructor(private readonly rate: Hertz) {
    this.ring = Math.ceil(rate / 50);
  }

  /** `bits` may be between two whole numbers. */
  tune(mix: number, bits: number, frequency: Hertz): void {
    this.mix.aim(mix);
    this.bits = bits;
    this.frequency = frequency;
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const steps = 2 ** (this.bits - 1);
    const step = Math.min(1, this.frequency / this.rate);
    for (let i = from; i < to; i++) {
      const l = left[i] as number;
      const r = right[i] as number;
      if (this.phase >= 1) {
        this.phase -= 1;
        this.heldLeft = Math.round(l * steps) / steps;
        this.heldRight = Math.round(r * steps) / steps;
      }
      this.phase += step;
      const mix = this.mix.next();
      left[i] = l + mix * (this.heldLeft - l);
      right[i] = r + mix * (this.heldRight - r);
    }
  }

  reset(): void {
    this.phase = 1;
    this.heldLeft = 0;
    this.heldRight = 0;
  }
}
