import { CONTROL } from "../kernels/layout";

/** A number that moves in a straight line to where it is wanted, within one control step; the first time it is there at once. */
export class Ramp {
  value = Number.NaN;
  private target = 0;
  private step = 0;
  private left = 0;

  aim(target: number): void {
    this.target = target;
    if (Number.isNaN(this.value)) this.value = target;
    this.left = target === this.value ? 0 : CONTROL;
    this.step = (target - this.value) / CONTROL;
  }

  /** Where it is no longer counts: it will be at once where it is wanted next. */
  forget(): void {
    this.value = Number.NaN;
    this.left = 0;
  }

  /** Moves on by a frame, and says where it is then. */
  next(): number {
    if (this.left === 0) return this.value;
    this.left--;
    this.value = this.left === 0 ? this.target : this.value + this.step;
    return this.value;
  }
}
