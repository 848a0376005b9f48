import type { Decibels, Hertz, Seconds } from "../../audio";

/** Seconds for which a peak counts, so that a low tone holds the gate open through its own zeros: half a period of 25 Hz. */
const PEAK_HELD = 0.02;

/**
 * Lets pass what is louder than a threshold: it opens there, and closes once the level has been so much lower for a while (hysteresis and hold; Giannoulis,
 * Massberg and Reiss, 2012, on level detection). It may listen to another sound than its own.
 */
export class Gate {
  readonly ring = 0;
  private keyLeft: Float32Array | null = null;
  private keyRight: Float32Array | null = null;
  private keyAt = 0;
  private opens = 0;
  private closes = 0;
  private floor = 0;
  private attack = 1;
  private release = 1;
  private holdFrames = 0;
  private open = false;
  /** Frames for which it stays open yet. */
  private left = 0;
  private gain = Number.NaN;

  constructor(private readonly rate: Hertz) {}

  readonly listen = (left: Float32Array | null, right: Float32Array | null, at: number): void => {
    this.keyLeft = left;
    this.keyRight = right;
    this.keyAt = at;
  };

  /** `lower`: decibels below the threshold at which it closes; `range`: what is left of the sound while it is closed. */
  tune(
    threshold: Decibels,
    lower: Decibels,
    range: Decibels,
    attack: Seconds,
    hold: Seconds,
    release: Seconds,
    silent: boolean,
  ): void {
    this.opens = 10 ** (threshold / 20);
    this.closes = 10 ** ((threshold - lower) / 20);
    this.floor = silent ? 0 : 10 ** (range / 20);
    // In its time it has gone nine tenths of its way.
    const share = (seconds: number) => 1 - Math.exp(-Math.LN10 / Math.max(1, seconds * this.rate));
    this.attack = share(attack);
    this.release = share(release);
    this.holdFrames = Math.round((hold + PEAK_HELD) * this.rate);
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const keyLeft = this.keyLeft ?? left;
    const keyRight = this.keyRight ?? right;
    const key = this.keyLeft ? this.keyAt - from : 0;
    for (let i = from; i < to; i++) {
      const level = Math.max(Math.abs(keyLeft[key + i] as number), Math.abs(keyRight[key + i] as number));
      if (level >= this.opens) this.open = true;
      if (this.open && level >= this.closes) this.left = this.holdFrames;
      else if (this.left > 0) this.left--;
      else this.open = false;
      const target = this.open ? 1 : this.floor;
      if (Number.isNaN(this.gain)) this.gain = this.floor;
      this.gain += (target > this.gain ? this.attack : this.release) * (target - this.gain);
      if (Math.abs(this.gain - target) < 1e-6) this.gain = target;
      left[i] = (left[i] as number) * this.gain;
      right[i] = (right[i] as number) * this.gain;
    }
  }

  reset(): void {
    this.open = false;
    this.left = 0;
    this.gain = Number.NaN;
  }
}
