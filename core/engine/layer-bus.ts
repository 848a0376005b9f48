import { CONTROL } from "../dsp";
import { Chain } from "./chain";
import type { LayerPlan } from "./plan";
import { BLOCK, type SharedParts } from "./shared-parts";

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

/** The sum of a layer's voices: what it goes through, and how much of it goes to each send. */
export class LayerBus {
  /** Address of the two channels to which the layer's pairs are added. */
  readonly at: number;
  readonly inserts: Chain;
  private readonly sends: readonly Level[];
  private readonly left = new Float32Array(BLOCK);
  private readonly right = new Float32Array(BLOCK);

  constructor(
    private readonly shared: SharedParts,
    sends: number,
  ) {
    this.at = shared.allocateBus();
    this.inserts = new Chain(shared.rate, shared.kernels);
    this.sends = Array.from({ length: sends }, () => new Level());
  }

  /** Whether something goes to a send. */
  private sending = false;
  /** Whether all sends stand where they are wanted. */
  private still = false;

  /** Whether it makes a difference: if not, the layer's voices may as well be added to the whole at once. */
  get matters(): boolean {
    return this.sending || this.inserts.watched || !this.inserts.passed;
  }

  control(layer: LayerPlan | null, first: boolean): void {
    const { shared: values, tempo, moved } = this.shared.modulation;
    this.inserts.control(values, tempo, moved);
    if (this.still && !moved && layer !== null && !layer.sendsRouted) return;
    this.still = true;
    this.sending = false;
    for (let s = 0; s < this.sends.length; s++) {
      const level = this.sends[s] as Level;
      level.settle();
      const slot = layer?.sends[s];
      level.aim(slot === undefined ? OFF : (values[slot] as number), first);
      if (level.step !== 0) this.still = false;
      if (!level.silent) this.sending = true;
    }
  }

  /** Takes what its voices have added into the whole and into the sends, `to − from` frames; its bus is empty afterwards. */
  process(
    wholeLeft: Float32Array,
    wholeRight: Float32Array,
    sendsLeft: readonly Float32Array[],
    sendsRight: readonly Float32Array[],
    from: number,
    to: number,
  ): void {
    const { left, right } = this;
    const count = to - from;
    this.shared.takeBus(this.at, left, right, 0, count);
    this.inserts.process(left, right, 0, count);
    for (let i = 0; i < count; i++) {
      wholeLeft[from + i] = (wholeLeft[from + i] as number) + (left[i] as number);
      wholeRight[from + i] = (wholeRight[from + i] as number) + (right[i] as number);
    }
    for (let s = 0; s < this.sends.length; s++) {
      const send = this.sends[s] as Level;
      if (send.silent) continue;
      const outLeft = sendsLeft[s] as Float32Array;
      const outRight = sendsRight[s] as Float32Array;
      let { value } = send;
      for (let i = 0; i < count; i++) {
        outLeft[i] = (outLeft[i] as number) + value * (left[i] as number);
        outRight[i] = (outRight[i] as number) + value * (right[i] as number);
        value += send.step;
      }
      send.value = value;
    }
  }
}
