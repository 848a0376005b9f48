import type { Decibels, Hertz } from "../../audio";
import { OnePole } from "./one-pole";
import { OVERSAMPLING_DELAY, Oversampler } from "./oversampler";
import { Ramp } from "./ramp";

export type DriveCurve = "soft" | "hard" | "fold";

/** What a curve makes of a value. */
export function bendBy(curve: DriveCurve, x: number): number {
  switch (curve) {
    case "soft":
      return x / Math.sqrt(1 + x * x);
    case "hard":
      return x > 1 ? 1 : x < -1 ? -1 : x;
    case "fold":
      return Math.sin(x);
  }
}

/** The curve's antiderivative. */
function areaOf(curve: DriveCurve, x: number): number {
  const a = Math.abs(x);
  switch (curve) {
    case "soft":
      return Math.sqrt(1 + x * x);
    case "hard":
      return a <= 1 ? (x * x) / 2 : a - 0.5;
    case "fold":
      return -Math.cos(x);
  }
}

/** The antiderivative of that. */
function volumeOf(curve: DriveCurve, x: number): number {
  switch (curve) {
    case "soft":
      return (x * Math.sqrt(1 + x * x) + Math.asinh(x)) / 2;
    case "hard":
      if (x > 1) return (x * x) / 2 - x / 2 + 1 / 6;
      return x < -1 ? -(x * x) / 2 - x / 2 - 1 / 6 : (x * x * x) / 6;
    case "fold":
      return -Math.sin(x);
  }
}

/** Level (a sine's amplitude) whose loudness the drive leaves as it was. */
const REFERENCE = 0.25;
/** Values this close have the curve's value between them taken instead of a difference that would lose its digits. */
const CLOSE = 1e-3;

/**
 * One channel: the curve's mean over three values under a triangle (Bilbao, Esqueda, Parker and Välimäki, "Antiderivative antialiasing for memoryless
 * nonlinearities", 2017, second order), at eight times the rate.
 */
class Side {
  readonly oversampler = new Oversampler();
  readonly tone: OnePole;
  gain = 1;
  curve: DriveCurve = "soft";
  /** The last two values. */
  private x1 = 0;
  private x2 = 0;

  constructor(rate: Hertz) {
    this.tone = new OnePole(rate);
  }

  /** Mean of the curve's antiderivative from one value to another. */
  private slope(a: number, b: number): number {
    const { curve } = this;
    const apart = a - b;
    return apart > CLOSE || apart < -CLOSE
      ? (volumeOf(curve, a) - volumeOf(curve, b)) / apart
      : areaOf(curve, (a + b) / 2);
  }

  readonly bend = (given: number): number => {
    const { curve, x1, x2 } = this;
    const x = given * this.gain;
    const apart = x - x2;
    let y: number;
    if (apart > CLOSE || apart < -CLOSE) y = (2 * (this.slope(x, x1) - this.slope(x1, x2))) / apart;
    else {
      // There and back: the mean from the turning point to where both others stand.
      const end = (x + x2) / 2;
      const from = end - x1;
      y =
        from > CLOSE || from < -CLOSE
          ? (2 / from) * (areaOf(curve, end) + (volumeOf(curve, x1) - volumeOf(curve, end)) / from)
          : bendBy(curve, (end + x1) / 2);
    }
    this.x2 = x1;
    this.x1 = x;
    return y;
  };

  reset(): void {
    this.oversampler.reset();
    this.tone.reset();
    this.x1 = 0;
    this.x2 = 0;
  }
}

/** Saturation, clipping or folding without audible aliases, level-compensated, with a cut of what it adds on top. It is 32 frames late. */
export class Drive {
  readonly ring = 2 * OVERSAMPLING_DELAY + 64;
  private readonly left: Side;
  private readonly right: Side;
  private readonly drive = new Ramp();
  private readonly level = new Ramp();

  constructor(rate: Hertz) {
    this.left = new Side(rate);
    this.right = new Side(rate);
  }

  tune(drive: Decibels, curve: DriveCurve, tone: Hertz): void {
    const gain = 10 ** (drive / 20);
    this.drive.aim(gain);
    this.level.aim(compensation(curve, gain));
    this.left.curve = curve;
    this.right.curve = curve;
    this.left.tone.tune(tone);
    this.right.tone.tune(tone);
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { left: a, right: b } = this;
    for (let i = from; i < to; i++) {
      const drive = this.drive.next();
      const level = this.level.next();
      a.gain = drive;
      b.gain = drive;
      left[i] = level * a.tone.low(a.oversampler.process(left[i] as number, a.bend));
      right[i] = level * b.tone.low(b.oversampler.process(right[i] as number, b.bend));
    }
  }

  reset(): void {
    this.left.reset();
    this.right.reset();
  }
}

/** The level at which a sine of the reference amplitude is as loud as before. */
function compensation(curve: DriveCurve, gain: number): number {
  let [before, after] = [0, 0];
  for (let k = 0; k < 32; k++) {
    const x = REFERENCE * Math.sin((Math.PI * (k + 0.5)) / 64);
    before += x * x;
    after += bendBy(curve, x * gain) ** 2;
  }
  return Math.sqrt(before / after);
}
