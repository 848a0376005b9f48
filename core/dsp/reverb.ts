import type { Hertz, Seconds } from "../audio";

const LINES = 8;
/** Lengths at full size in seconds, without common divisors in frames. */
const LENGTHS = [0.0437, 0.0503, 0.0571, 0.0637, 0.0713, 0.0797, 0.0883, 0.0971];
/** Keeps the feedback above the slow range of tiny numbers. */
const TINY = 1e-18;

/**
 * A room as a feedback delay network of eight lines with a Householder matrix (Jot and Chaigne, "Digital delay networks for
 * designing artificial reverberators", 1991): each line loses 60 dB in the decay time, and more above the damping frequency.
 */
export class Reverb {
  private readonly lines: Float64Array[];
  private readonly masks: number;
  private readonly low = new Float64Array(LINES);
  private readonly length = new Float64Array(LINES);
  private readonly wanted = new Float64Array(LINES);
  private readonly loss = new Float64Array(LINES);
  private readonly out = new Float64Array(LINES);
  private damp = 1;
  private write = 0;
  private level = 0;
  private wantedLevel = 0;
  private tuned = false;

  constructor(private readonly rate: Hertz) {
    this.ring = Math.ceil(rate * 0.1);
    const size = 2 ** Math.ceil(Math.log2(rate * 0.1 + 4));
    this.lines = LENGTHS.map(() => new Float64Array(size));
    this.masks = size - 1;
  }

  /** Sets the room: wet level 0 to 1, size 0 to 1, decay by 60 dB, and the frequency above which it is damped. */
  tune(mix: number, size: number, decay: Seconds, damping: Hertz): void {
    this.wantedLevel = mix;
    this.damp = 1 - Math.exp((-2 * Math.PI * damping) / this.rate);
    for (let i = 0; i < LINES; i++) {
      const seconds = (LENGTHS[i] as number) * size;
      this.wanted[i] = Math.max(2, Math.round(seconds * this.rate));
      this.loss[i] = 10 ** ((-3 * seconds) / decay);
    }
    if (!this.tuned) {
      this.length.set(this.wanted);
      this.level = mix;
      this.tuned = true;
    }
  }

  /** Frames for which nothing may be heard of it although it is not over. */
  readonly ring: number;
  dry = 1;

  /** Adds the room to the frames `[from, to)` of a stereo block. A changed size or level glides, so that nothing steps. */
  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { lines, masks, low, length, wanted, loss, out, damp, dry } = this;
    let { write, level } = this;
    for (let i = from; i < to; i++) {
      level += 0.002 * (this.wantedLevel - level);
      const l = left[i] as number;
      const r = right[i] as number;
      let sum = 0;
      for (let k = 0; k < LINES; k++) {
        const line = lines[k] as Float64Array;
        let n = length[k] as number;
        const gap = (wanted[k] as number) - n;
        if (gap !== 0) {
          n += gap > 0.02 ? 0.02 : gap < -0.02 ? -0.02 : gap;
          length[k] = n;
        }
        const whole = Math.floor(n);
        const part = n - whole;
        const a = line[(write - whole) & masks] as number;
        const b = line[(write - whole - 1) & masks] as number;
        const x = a + part * (b - a);
        const y = (low[k] as number) + damp * (x - (low[k] as number));
        low[k] = y;
        out[k] = y * (loss[k] as number);
        sum += out[k] as number;
      }
      const back = (sum * 2) / LINES;
      for (let k = 0; k < LINES; k++) {
        (lines[k] as Float64Array)[write & masks] = (out[k] as number) - back + ((k & 1 ? r : l) + TINY) * 0.5;
      }
      const wetL = (out[0] as number) + (out[2] as number) - (out[4] as number) - (out[6] as number);
      const wetR = (out[1] as number) + (out[3] as number) - (out[5] as number) - (out[7] as number);
      left[i] = dry * l + level * wetL;
      right[i] = dry * r + level * wetR;
      write = (write + 1) & masks;
    }
    this.write = write;
    this.level = level;
  }

  reset(): void {
    for (const line of this.lines) line.fill(0);
    this.low.fill(0);
    this.length.set(this.wanted);
    this.level = this.wantedLevel;
    this.write = 0;
  }
}
