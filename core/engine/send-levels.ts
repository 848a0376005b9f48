import { CONTROL } from "../dsp";

/** Decibels at which a send is off. */
const OFF = -60;

/** A level that moves in a straight line from one control step to the next. */
class Level {
  value = 0;
  step = 0;
  private decibels = Number.NaN;
  private wanted = 0;

  aim(decibels: number, first: boolean): void {
    if (decibels !== this.decibels) this.wanted = decibels <= OFF ? 0 : 10 ** (decibels / 20);
    this.decibels = decibels;
    if (first) this.value = this.wanted;
    this.step = (this.wanted - this.value) / CONTROL;
  }

  get silent(): boolean {
    return this.value === 0 && this.step === 0;
  }

  /** At the end of a control step it stands where it was to be. */
  settle(): void {
    if (Math.abs(this.wanted - this.value) < 1e-9) this.value = this.wanted;
  }
}

/** How much of a sum goes to each send. */
export class SendLevels {
  /** Whether something goes to a send. */
  sending = false;
  /** Whether all levels stand where they are wanted. */
  still = false;
  private readonly levels: readonly Level[];

  constructor(sends: number) {
    this.levels = Array.from({ length: sends }, () => new Level());
  }

  /**
   * A control step: takes the levels (dB) from the places `slots` of the shared values; null: all off. `routed`: a route moves one of them; `moved`: any
   * base value may be another; `first`: they stand there at once.
   */
  control(
    slots: readonly number[] | null,
    routed: boolean,
    values: Float64Array,
    moved: boolean,
    first: boolean,
  ): void {
    if (this.still && !moved && slots !== null && !routed) return;
    this.still = true;
    this.sending = false;
    for (let s = 0; s < this.levels.length; s++) {
      const level = this.levels[s] as Level;
      level.settle();
      const slot = slots?.[s];
      level.aim(slot === undefined ? OFF : (values[slot] as number), first);
      if (level.step !== 0) this.still = false;
      if (!level.silent) this.sending = true;
    }
  }

  /** Whether anything is wanted of these places. */
  static wanted(slots: readonly number[], values: Float64Array): boolean {
    for (let s = 0; s < slots.length; s++) if ((values[slots[s] as number] as number) > OFF) return true;
    return false;
  }

  /** Adds the first `count` frames of a sum to the sends, under a share of it that changes by `step` with each frame. */
  add(
    left: Float32Array,
    right: Float32Array,
    sendsLeft: readonly Float32Array[],
    sendsRight: readonly Float32Array[],
    count: number,
    share = 1,
    step = 0,
  ): void {
    if (!this.sending) return;
    for (let s = 0; s < this.levels.length; s++) {
      const send = this.levels[s] as Level;
      if (send.silent) continue;
      const outLeft = sendsLeft[s] as Float32Array;
      const outRight = sendsRight[s] as Float32Array;
      let { value } = send;
      let heard = share;
      for (let i = 0; i < count; i++) {
        outLeft[i] = (outLeft[i] as number) + value * heard * (left[i] as number);
        outRight[i] = (outRight[i] as number) + value * heard * (right[i] as number);
        value += send.step;
        heard += step;
      }
      send.value = value;
    }
  }
}
