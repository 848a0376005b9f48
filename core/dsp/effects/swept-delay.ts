import type { Hertz, Seconds } from "../../audio";
import { DelayLine } from "./delay-line";
import { Ramp } from "./ramp";
import { Swing } from "./swing";

/** Longest delay with its sweep, in seconds. */
const MOST = 0.08;

/** A short delay that swings, with feedback: a chorus where it is long, a flanger where it is short (J. Dattorro, "Effect design, part 2", 1997). */
export class SweptDelay {
  readonly ring: number;
  private readonly lines: readonly [DelayLine, DelayLine];
  private readonly distances = [new Ramp(), new Ramp()] as const;
  private readonly mix = new Ramp();
  private readonly feedback = new Ramp();
  private readonly swing: Swing;
  private centre = 0;
  private depth = 0;
  private spread = 0;

  constructor(private readonly rate: Hertz) {
    this.lines = [new DelayLine(MOST * rate), new DelayLine(MOST * rate)];
    this.swing = new Swing(rate);
    this.ring = Math.ceil(MOST * rate);
  }

  /** `mix` 0 to 1 from the sound as it was to the delayed one, `feedback` ±1, `spread` cycles between the channels. */
  tune(mix: number, time: Seconds, depth: Seconds, frequency: Hertz, feedback: number, spread: number): void {
    this.mix.aim(mix);
    this.feedback.aim(feedback);
    this.swing.tune(frequency);
    this.centre = time * this.rate;
    this.depth = depth * this.rate;
    this.spread = spread;
  }

  control(): void {
    this.swing.advance();
    for (let c = 0; c < 2; c++) {
      const distance = this.centre + this.depth * this.swing.sine(c * this.spread);
      this.distances[c as 0 | 1].aim(Math.min(MOST * this.rate, Math.max(2, distance)));
    }
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const [lineLeft, lineRight] = this.lines;
    const [atLeft, atRight] = this.distances;
    for (let i = from; i < to; i++) {
      const l = left[i] as number;
      const r = right[i] as number;
      const mix = this.mix.next();
      const feedback = this.feedback.next();
      // One frame less, for what comes now is written only afterwards.
      const wetLeft = lineLeft.between(atLeft.next() - 1);
      const wetRight = lineRight.between(atRight.next() - 1);
      lineLeft.write(l + feedback * wetLeft);
      lineRight.write(r + feedback * wetRight);
      left[i] = l + mix * (wetLeft - l);
      right[i] = r + mix * (wetRight - r);
    }
  }

  reset(): void {
    this.swing.reset();
    for (const ramp of this.distances) ramp.forget();
    for (const line of this.lines) line.clear();
  }
}
