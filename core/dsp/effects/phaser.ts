import type { Hertz } from "../../audio";
import { Ramp } from "./ramp";
import { Swing } from "./swing";

const MOST_STAGES = 12;

/** First-order all-passes in a row whose corner swings, mixed with the sound as it was: notches that wander (J. O. Smith, "An all-pass approach to digital phasing and flanging", 1984). */
export class Phaser {
  readonly ring: number;
  private readonly memory = [new Float64Array(MOST_STAGES), new Float64Array(MOST_STAGES)] as const;
  private readonly back = new Float64Array(2);
  private readonly corners = [new Ramp(), new Ramp()] as const;
  private readonly mix = new Ramp();
  private readonly feedback = new Ramp();
  private readonly swing: Swing;
  private stages = 4;
  private centre = 1000;
  private depth = 1;
  private spread = 0;

  constructor(private readonly rate: Hertz) {
    this.swing = new Swing(rate);
    this.ring = Math.ceil(rate * 0.05);
  }

  /** `mix` 0 to 1 (notches are deepest at a half), `depth` octaves either way of the centre, `feedback` ±1, `spread` cycles between the channels. */
  tune(
    mix: number,
    stages: number,
    centre: Hertz,
    depth: number,
    frequency: Hertz,
    feedback: number,
    spread: number,
  ): void {
    this.mix.aim(mix);
    this.feedback.aim(feedback);
    this.swing.tune(frequency);
    this.stages = Math.min(MOST_STAGES, stages);
    this.centre = centre;
    this.depth = depth;
    this.spread = spread;
  }

  control(): void {
    this.swing.advance();
    for (let c = 0; c < 2; c++) {
      const corner = this.centre * 2 ** (this.depth * this.swing.sine(c * this.spread));
      const g = Math.tan(Math.PI * Math.min(0.49, Math.max(5e-5, corner / this.rate)));
      this.corners[c as 0 | 1].aim((g - 1) / (g + 1));
    }
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    for (let i = from; i < to; i++) {
      const mix = this.mix.next();
      const feedback = this.feedback.next();
      left[i] = this.channel(0, left[i] as number, mix, feedback);
      right[i] = this.channel(1, right[i] as number, mix, feedback);
    }
  }

  private channel(c: 0 | 1, x: number, mix: number, feedback: number): number {
    const memory = this.memory[c];
    const a = this.corners[c].next();
    let y = x + feedback * (this.back[c] as number);
    for (let s = 0; s < this.stages; s++) {
      // Transposed direct form: one memory a stage.
      const out = a * y + (memory[s] as number);
      memory[s] = y - a * out;
      y = out;
    }
    this.back[c] = y;
    return x + mix * (y - x);
  }

  reset(): void {
    this.swing.reset();
    for (const ramp of this.corners) ramp.forget();
    for (const memory of this.memory) memory.fill(0);
    this.back.fill(0);
  }
}
