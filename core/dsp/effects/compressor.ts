import type { Decibels, Hertz, Seconds } from "../../audio";
import { DelayLine } from "./delay-line";
import { Ramp } from "./ramp";

/** The gain (decibels) that a level asks for: nothing below the knee, above it 1 − 1/ratio of what is too much (Giannoulis, Massberg and Reiss, "Digital dynamic range compressor design", 2012). */
export function compressedBy(level: Decibels, threshold: Decibels, ratio: number, knee: Decibels): Decibels {
  const over = level - threshold;
  const slope = 1 / ratio - 1;
  if (2 * over < -knee) return 0;
  if (2 * Math.abs(over) <= knee && knee > 0) return (slope * (over + knee / 2) ** 2) / (2 * knee);
  return slope * over;
}

/** Seconds by which it can look ahead at the most. */
export const MOST_AHEAD = 0.02;
/** In which another look-ahead comes in. */
const CROSS_SECONDS = 0.003;

/** Softest level that is looked at. */
const FLOOR = 1e-6;

/** A feed-forward compressor: the louder channel's level in decibels, the gain that it asks for, smoothed by attack and release (branching, the cited paper's eq. 16).
 * It may listen to another sound than its own, and delay its own so that the gain is there before what it is for. */
export class Compressor {
  private readonly lineLeft: DelayLine;
  private readonly lineRight: DelayLine;
  /** Frames by which it looks ahead, the same before that was changed, and how far the change is. */
  private ahead = -1;
  private before = 0;
  private crossed = 1;
  private keyLeft: Float32Array | null = null;
  private keyRight: Float32Array | null = null;
  private keyAt = 0;
  private readonly mix = new Ramp();
  private readonly makeUp = new Ramp();
  private threshold = 0;
  private ratio = 1;
  private knee = 0;
  private attack = 0;
  private release = 0;
  private gain = 0;
  private wanted = 0;

  constructor(private readonly rate: Hertz) {
    this.lineLeft = new DelayLine(MOST_AHEAD * rate);
    this.lineRight = new DelayLine(MOST_AHEAD * rate);
  }

  get ring(): number {
    return Math.max(this.ahead, this.before);
  }

  readonly listen = (left: Float32Array | null, right: Float32Array | null, at: number): void => {
    this.keyLeft = left;
    this.keyRight = right;
    this.keyAt = at;
  };

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

  /** How long before its sound it looks at what decides, and so by how much it delays. */
  lookAhead(ahead: Seconds): void {
    const frames = Math.round(Math.min(MOST_AHEAD, Math.max(0, ahead)) * this.rate);
    if (this.ahead < 0) this.ahead = frames;
    else if (frames !== this.ahead && this.crossed === 1) {
      this.before = this.ahead;
      this.ahead = frames;
      this.crossed = 0;
    }
    this.wanted = frames;
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { threshold, ratio, knee, attack, release, keyAt } = this;
    const keyLeft = this.keyLeft ?? left;
    const keyRight = this.keyRight ?? right;
    const key = this.keyLeft ? keyAt - from : 0;
    let { gain } = this;
    for (let i = from; i < to; i++) {
      const peak = Math.max(FLOOR, Math.abs(keyLeft[key + i] as number), Math.abs(keyRight[key + i] as number));
      const asked = compressedBy(20 * Math.log10(peak), threshold, ratio, knee);
      gain += (asked < gain ? attack : release) * (asked - gain);
      const mix = this.mix.next();
      const factor = 1 + mix * (10 ** ((gain + this.makeUp.next()) / 20) - 1);
      this.lineLeft.write(left[i] as number);
      this.lineRight.write(right[i] as number);
      left[i] = this.delayed(this.lineLeft) * factor;
      right[i] = this.delayed(this.lineRight) * factor;
      if (this.crossed < 1) this.cross();
    }
    this.gain = gain > -1e-9 ? 0 : gain;
  }

  private delayed(line: DelayLine): number {
    const now = line.ago(Math.max(0, this.ahead));
    return this.crossed === 1 ? now : now * this.crossed + line.ago(this.before) * (1 - this.crossed);
  }

  /** A frame further from one look-ahead to the next; what was asked for meanwhile comes after it. */
  private cross(): void {
    this.crossed = Math.min(1, this.crossed + 1 / (CROSS_SECONDS * this.rate));
    if (this.crossed < 1 || this.ahead === this.wanted) return;
    this.before = this.ahead;
    this.ahead = this.wanted;
    this.crossed = 0;
  }

  reset(): void {
    this.gain = 0;
    this.lineLeft.clear();
    this.lineRight.clear();
    this.ahead = this.wanted;
    this.crossed = 1;
  }
}
