import type { Decibels, Hertz, Seconds } from "../../audio";
import { Ramp } from "./ramp";

/** The gain (decibels) that a level asks for: nothing below the knee, above it 1 − 1/ratio of what is too much (Giannoulis, Massberg and Reiss, "Digital dynamic range compressor design", 2012). */
export function compressedBy(level: Decibels, threshold: Decibels, ratio: number, knee: Decibels): Decibels {
  const over = level - threshold;
  const slope = 1 / ratio - 1;
  if (2 * over < -knee) return 0;
  if (2 * Math.abs(over) <= knee && knee > 0) return (slope * (over + knee / 2) ** 2) / (2 * knee);
  return slope * over;
}

/** Softest level that is looked at. */
const FLOOR = 1e-6;

/** A feed-forward compressor: the louder channel's level in decibels, the gain that it asks for, smoothed by attack and release (branching, the cited paper's eq. 16). */
export class Compressor {
  readonly ring = 0;
  private readonly mix = new Ramp();
  private readonly makeUp = new Ramp();
  private threshold = 0;
  private ratio = 1;
  private knee = 0;
  private attack = 0;
  private release = 0;
  private gain = 0;

  constructor(private readonly rate: Hertz) {}

  tune(
    mix: number,
    threshold: Decibels,
    ratio: number,
    knee: Decibels,
    attack: Seconds,
    release: Seconds,
    makeUp: Decibels,
  ): void {
    this.mix.aim(mix);
    this.makeUp.aim(makeUp);
    this.threshold = threshold;
    this.ratio = ratio;
    this.knee = knee;
    const share = (seconds: number) => (seconds <= 0 ? 1 : 1 - Math.exp(-1 / (seconds * this.rate)));
    this.attack = share(attack);
    this.release = share(release);
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { threshold, ratio, knee, attack, release } = this;
    let { gain } = this;
    for (let i = from; i < to; i++) {
      const l = left[i] as number;
      const r = right[i] as number;
      const peak = Math.max(FLOOR, Math.abs(l), Math.abs(r));
      const asked = compressedBy(20 * Math.log10(peak), threshold, ratio, knee);
      gain += (asked < gain ? attack : release) * (asked - gain);
      const mix = this.mix.next();
      const factor = 1 + mix * (10 ** ((gain + this.makeUp.next()) / 20) - 1);
      left[i] = l * factor;
      right[i] = r * factor;
    }
    this.gain = gain > -1e-9 ? 0 : gain;
  }

  reset(): void {
    this.gain = 0;
  }
}
