import type { Decibels, Hertz, Seconds } from "../../audio";
import { DelayLine } from "./delay-line";
import { OnePole } from "./one-pole";
import { Ramp } from "./ramp";

/** Longest delay in seconds. */
const MOST = 8;
/** Levels between which a sound takes the echoes down, from not at all to wholly, in decibels, and seconds in which it does. */
const DUCKS_FROM = -50;
const DUCKS_TO = -10;
const DUCKS_IN = 0.005;
/** Seconds in which another delay takes over from the one before. */
const CROSS = 0.03;

/** One channel's way round: what is heard again goes through two cuts and a soft saturation each time. */
class Loop {
  readonly line: DelayLine;
  readonly low: OnePole;
  readonly high: OnePole;
  constructor(rate: number) {
    this.line = new DelayLine(MOST * rate);
    this.low = new OnePole(rate);
    this.high = new OnePole(rate);
  }

  reset(): void {
    this.line.clear();
    this.low.reset();
    this.high.reset();
  }
}

/** Echoes, straight or from side to side, whose loop cuts and saturates. Another time takes over within 30 ms, without a slide in pitch. */
export class Delay {
  dry = 1;
  private readonly left: Loop;
  private readonly right: Loop;
  private readonly mix = new Ramp();
  private readonly feedback = new Ramp();
  private readonly drive = new Ramp();
  private crossing = false;
  /** Decibels by which a loud sound takes the echoes down, how loud it was just now, and what is left of them. */
  private duck = 0;
  private level = 0;
  private kept = 1;
  private readonly ducks: number;
  private comesBack = 0;
  /** Frames: what is heard, what takes over (of which so much is heard already), and what is wanted next. */
  private now = 0;
  private next = 0;
  private share = 0;
  private wanted = 0;
  private readonly shareStep: number;

  constructor(private readonly rate: Hertz) {
    this.left = new Loop(rate);
    this.right = new Loop(rate);
    this.shareStep = 1 / Math.round(CROSS * rate);
    this.ducks = 1 - Math.exp(-1 / (DUCKS_IN * rate));
  }

  get ring(): number {
    return Math.max(this.now, this.next, this.wanted) * 2;
  }

  /** `mix` and `feedback` 0 to 1, `drive` 0 or more; `crossing`: from side to side; a loud sound takes the echoes down by `duck`, which come back in `back`. */
  tune(
    mix: number,
    time: Seconds,
    feedback: number,
    lowCut: Hertz,
    highCut: Hertz,
    drive: Decibels,
    crossing: boolean,
    duck: Decibels = 0,
    back: Seconds = 0.3,
  ): void {
    this.mix.aim(mix);
    this.feedback.aim(feedback);
    this.drive.aim(10 ** (drive / 20));
    this.crossing = crossing;
    this.duck = duck;
    // A peak falls by 40 dB, from the one level to the other, in that time.
    this.comesBack = 10 ** ((DUCKS_FROM - DUCKS_TO) / 20 / Math.max(1, back * this.rate));
    this.wanted = Math.min(MOST * this.rate, Math.max(1, Math.round(time * this.rate)));
    if (this.now === 0) {
      this.now = this.wanted;
      this.next = this.wanted;
    }
    for (const { low, high } of [this.left, this.right]) {
      low.tune(highCut);
      high.tune(lowCut);
    }
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    for (let i = from; i < to; i++) {
      const l = left[i] as number;
      const r = right[i] as number;
      const echoLeft = this.hear(this.left.line);
      const echoRight = this.hear(this.right.line);
      this.turn();
      const feedback = this.feedback.next();
      const drive = this.drive.next();
      const backLeft = feedback * shape(this.left.high.high(this.left.low.low(echoLeft)), drive);
      const backRight = feedback * shape(this.right.high.high(this.right.low.low(echoRight)), drive);
      if (this.crossing) {
        this.left.line.write((l + r) / 2 + backRight);
        this.right.line.write(backLeft);
      } else {
        this.left.line.write(l + backLeft);
        this.right.line.write(r + backRight);
      }
      const mix = this.mix.next() * this.ducked(Math.max(Math.abs(l), Math.abs(r)));
      left[i] = this.dry * l + mix * echoLeft;
      right[i] = this.dry * r + mix * echoRight;
    }
  }

  /** What a sound so loud leaves of the echoes. */
  private ducked(level: number): number {
    this.level = Math.max(level, this.level * this.comesBack);
    let target = 1;
    if (this.duck > 0 && this.level > 0) {
      const share = (20 * Math.log10(this.level) - DUCKS_FROM) / (DUCKS_TO - DUCKS_FROM);
      target = 10 ** ((-this.duck * Math.min(1, Math.max(0, share))) / 20);
    } else if (this.kept === 1) return 1;
    this.kept += this.ducks * (target - this.kept);
    if (Math.abs(this.kept - target) < 1e-6) this.kept = target;
    return this.kept;
  }

  /** What a line gives: of two distances, while one takes over from the other. */
  private hear(line: DelayLine): number {
    const a = line.ago(this.now - 1);
    return this.share === 0 ? a : a + this.share * (line.ago(this.next - 1) - a);
  }

  private turn(): void {
    if (this.now === this.next) {
      if (this.wanted === this.now) return;
      this.next = this.wanted;
    }
    this.share += this.shareStep;
    if (this.share < 1) return;
    this.now = this.next;
    this.share = 0;
  }

  reset(): void {
    this.left.reset();
    this.right.reset();
    this.now = this.wanted;
    this.next = this.wanted;
    this.share = 0;
    this.level = 0;
    this.kept = 1;
  }
}

/** Soft saturation that leaves soft sounds at their level: x / (1 + |x|) between a gain and its inverse, none at a gain of 1. */
function shape(x: number, drive: number): number {
  if (drive <= 1) return x;
  const hard = drive - 1;
  return x / (1 + hard * Math.abs(x));
}
