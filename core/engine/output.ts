import { CONTROL, Limiter } from "../dsp";
import { EffectChain } from "./effect-chain";
import type { Plan } from "./plan";
import type { SharedParts } from "./shared-parts";

/** Whether everything in two channels is a finite number. */
function allFinite(left: Float32Array, right: Float32Array, from: number, to: number): boolean {
  let sum = 0;
  // Whatever isn't finite stays so when it is multiplied by 0.
  for (let i = from; i < to; i++) sum += (left[i] as number) * 0 + (right[i] as number) * 0;
  return sum === 0;
}

/** What becomes of the sum of all voices: level, effects, what is heard beside the instrument, the limiter. */
export class Output {
  /** Two channels that are heard beside the instrument in the next call of `render`; null for none. */
  beside: readonly [Float32Array, Float32Array] | null = null;
  /** How often the effects began anew, because their numbers had left all bounds. */
  broken = 0;
  readonly effects: EffectChain;
  readonly limiter: Limiter;
  /** Level of the whole: what was asked for, the same as a factor, and the ramp to it. */
  private decibels = 0;
  private wanted = 1;
  private level = 1;
  private levelStep = 0;

  constructor(private readonly shared: SharedParts) {
    this.effects = new EffectChain(shared.rate, shared.kernels);
    this.limiter = new Limiter(shared.rate);
  }

  /** Aims level and effects at their values for the next control step; `first`: they are to stand there at once. */
  tune(plan: Plan, first: boolean): void {
    const values = this.shared.modulation.shared;
    const decibels = values[plan.play.level as number] as number;
    if (decibels !== this.decibels) {
      this.decibels = decibels;
      this.wanted = 10 ** (decibels / 20);
    }
    if (first) this.level = this.wanted;
    this.levelStep = (this.wanted - this.level) / CONTROL;
    this.effects.tune(values);
  }

  /** Takes what the voices have added to the bus into the frames `[from, to)` of two channels; the bus is empty afterwards. */
  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { f32 } = this.shared.heap;
    const step = this.levelStep;
    let { level } = this;
    let at = this.shared.bus / 4;
    for (let i = from; i < to; i++) {
      left[i] = (f32[at] as number) * level;
      right[i] = (f32[at + 1] as number) * level;
      level += step;
      f32[at] = 0;
      f32[at + 1] = 0;
      at += 2;
    }
    this.level = level;
    this.effects.process(left, right, from, to);
    if (!allFinite(left, right, from, to)) {
      // Only the effects can have made it: they begin anew.
      this.effects.reset();
      left.fill(0, from, to);
      right.fill(0, from, to);
      this.broken++;
    }
    const { beside } = this;
    if (beside) {
      for (let i = from; i < to; i++) {
        left[i] = (left[i] as number) + (beside[0][i] as number);
        right[i] = (right[i] as number) + (beside[1][i] as number);
      }
    }
    this.limiter.process(left, right, from, to);
  }

  reset(): void {
    this.effects.reset();
    this.limiter.reset();
  }
}
