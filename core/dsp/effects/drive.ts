import type { Decibels, Hertz } from "../../audio";
import type { Kernels } from "../kernels/kernels";
import { OnePole } from "./one-pole";
import { OVERSAMPLING, OVERSAMPLING_DELAY, Oversampler, STRETCH } from "./oversampler";
import { Ramp } from "./ramp";

export type DriveCurve = "soft" | "hard" | "fold";

/** A cubic that is level from 1 on, and its antiderivatives (of what is positive, and of both signs). */
const cubic = (x: number): number => (x > 1 ? 1 : x < -1 ? -1 : x * (1.5 - 0.5 * x * x));
const cubicArea = (a: number): number => (a <= 1 ? a * a * (0.75 - 0.125 * a * a) : a - 0.375);
const cubicVolume = (x: number): number => {
  if (x > 1) return x * (0.5 * x - 0.375) + 0.1;
  if (x < -1) return -x * (0.5 * x + 0.375) - 0.1;
  return x * x * x * (0.25 - 0.025 * x * x);
};
/** How far its values are apart, so that soft sounds keep their level. */
const SOFTNESS = 1.5;

/** What a curve makes of a value. */
export function bendBy(curve: DriveCurve, x: number): number {
  switch (curve) {
    case "soft":
      return cubic(x / SOFTNESS);
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
      return SOFTNESS * cubicArea(a / SOFTNESS);
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
      return SOFTNESS * SOFTNESS * cubicVolume(x / SOFTNESS);
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
 * nonlinearities", 2017, second order), at six times the rate.
 */
class Side {
  readonly oversampler: Oversampler;
  readonly tone: OnePole;
  private curve: DriveCurve = "soft";
  /** The last two values. */
  private x1 = 0;
  private x2 = 0;
  /** The second antiderivative at the last value, and the mean of the first between the last two. */
  private volume = 0;
  private mean = 0;

  constructor(rate: Hertz, kernels: Kernels) {
    this.oversampler = new Oversampler(kernels);
    this.tone = new OnePole(rate);
    this.setCurve("soft");
  }

  setCurve(curve: DriveCurve): void {
    this.curve = curve;
    this.volume = volumeOf(curve, this.x1);
    this.mean = areaOf(curve, (this.x1 + this.x2) / 2);
  }

  /** Bends `count` frames in place, the frames under these gains before and behind. */
  process(x: Float32Array, from: number, count: number, gains: Float64Array, levels: Float64Array): void {
    const { oversampler, tone } = this;
    oversampler.begin(x, from, count);
    const { values, first } = oversampler;
    for (let i = 0, at = first; i < count; i++) {
      const gain = gains[i] as number;
      for (let p = 0; p < OVERSAMPLING; p++, at++) values[at] = this.bend((values[at] as number) * gain);
    }
    oversampler.end(x, from, count);
    for (let i = 0; i < count; i++) x[from + i] = (levels[i] as number) * tone.low(x[from + i] as number);
  }

  private bend(x: number): number {
    const { curve, x1, x2 } = this;
    const apart = x - x2;
    const step = x - x1;
    const volume = volumeOf(curve, x);
    const mean = step > CLOSE || step < -CLOSE ? (volume - this.volume) / step : areaOf(curve, (x + x1) / 2);
    let y: number;
    if (apart > CLOSE || apart < -CLOSE) y = (2 * (mean - this.mean)) / apart;
    else {
      // There and back: the mean from the turning point to where both others stand.
      const end = (x + x2) / 2;
      const from = end - x1;
      y =
        from > CLOSE || from < -CLOSE
          ? (2 / from) * (areaOf(curve, end) + (this.volume - volumeOf(curve, end)) / from)
          : bendBy(curve, (end + x1) / 2);
    }
    this.x2 = x1;
    this.x1 = x;
    this.volume = volume;
    this.mean = mean;
    return y;
  }

  reset(): void {
    this.oversampler.reset();
    this.tone.reset();
    this.x1 = 0;
    this.x2 = 0;
    this.setCurve(this.curve);
  }
}

/** Saturation, clipping or folding without audible aliases, level-compensated, with a cut of what it adds on top. It is 24 frames late. */
export class Drive {
  readonly ring = 2 * OVERSAMPLING_DELAY + 64;
  private readonly left: Side;
  private readonly right: Side;
  private readonly drive = new Ramp();
  private readonly level = new Ramp();
  private readonly gains = new Float64Array(STRETCH);
  private readonly levels = new Float64Array(STRETCH);
  private curve: DriveCurve = "soft";

  constructor(rate: Hertz, kernels: Kernels) {
    this.left = new Side(rate, kernels);
    this.right = new Side(rate, kernels);
  }

  tune(drive: Decibels, curve: DriveCurve, tone: Hertz): void {
    const gain = 10 ** (drive / 20);
    this.drive.aim(gain);
    this.level.aim(compensation(curve, gain));
    if (curve !== this.curve) for (const side of [this.left, this.right]) side.setCurve(curve);
    this.curve = curve;
    this.left.tone.tune(tone);
    this.right.tone.tune(tone);
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    for (let at = from; at < to; at += STRETCH) {
      const count = Math.min(STRETCH, to - at);
      for (let i = 0; i < count; i++) {
        this.gains[i] = this.drive.next();
        this.levels[i] = this.level.next();
      }
      this.left.process(left, at, count, this.gains, this.levels);
      this.right.process(right, at, count, this.gains, this.levels);
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
