import type { Hertz } from "../../audio";
import { type LfoShape, lfoAt } from "../lfo";
import { Ramp } from "./ramp";
import { Swing } from "./swing";

/** A level that swings, with the channels apart by a part of a cycle: at a half the sound goes from side to side. */
export class Tremolo {
  readonly ring = 0;
  private readonly gains = [new Ramp(), new Ramp()] as const;
  private readonly swing: Swing;
  private depth = 0;
  private spread = 0;
  private shape: LfoShape = "sine";

  constructor(rate: Hertz) {
    this.swing = new Swing(rate);
  }

  /** `depth` 0 to 1, `spread` cycles between the channels. */
  tune(depth: number, frequency: Hertz, shape: LfoShape, spread: number): void {
    this.depth = depth;
    this.swing.tune(frequency);
    this.shape = shape;
    this.spread = spread;
  }

  control(): void {
    this.swing.advance();
    for (let c = 0; c < 2; c++) {
      const value = lfoAt(this.shape, this.swing.phase + c * this.spread);
      this.gains[c as 0 | 1].aim(1 - (this.depth * (1 - value)) / 2);
    }
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const [gainLeft, gainRight] = this.gains;
    for (let i = from; i < to; i++) {
      left[i] = (left[i] as number) * gainLeft.next();
      right[i] = (right[i] as number) * gainRight.next();
    }
  }

  reset(): void {
    this.swing.reset();
    for (const ramp of this.gains) ramp.forget();
  }
}
