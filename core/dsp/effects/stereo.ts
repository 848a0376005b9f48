import type { Decibels } from "../../audio";
import { Ramp } from "./ramp";

/** Middle and side of a sound with levels of their own, then its balance and level. */
export class Stereo {
  readonly ring = 0;
  private readonly middle = new Ramp();
  private readonly side = new Ramp();
  private readonly gainLeft = new Ramp();
  private readonly gainRight = new Ramp();

  /** `width` 0 (one channel) to 2 (only what differs), `balance` ±1: the other side is taken down. */
  tune(width: number, balance: number, level: Decibels): void {
    this.middle.aim(width > 1 ? 2 - width : 1);
    this.side.aim(width < 1 ? width : 1);
    const gain = 10 ** (level / 20);
    this.gainLeft.aim(gain * (balance > 0 ? 1 - balance : 1));
    this.gainRight.aim(gain * (balance < 0 ? 1 + balance : 1));
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    for (let i = from; i < to; i++) {
      const l = left[i] as number;
      const r = right[i] as number;
      const middle = (this.middle.next() * (l + r)) / 2;
      const side = (this.side.next() * (l - r)) / 2;
      left[i] = (middle + side) * this.gainLeft.next();
      right[i] = (middle - side) * this.gainRight.next();
    }
  }

  reset(): void {}
}
