import type { Hertz, Seconds } from "../../audio";
import { CONTROL } from "../kernels/layout";
import { cubic } from "./cubic";
import { Diffuser } from "./diffuser";
import { shareOf, type WallSettings, Walls } from "./hall-walls";
import { OnePole } from "./one-pole";
import { Ramp } from "./ramp";

export interface HallSettings extends WallSettings {
  readonly mix: number;
  readonly preDelay: Seconds;
  /** 0.1 to 1: how far apart the walls are. */
  readonly size: number;
  /** 0 to 1: how soon echoes grow dense; how loud the first ones are; how far the walls move. */
  readonly diffusion: number;
  readonly early: number;
  readonly motion: number;
  readonly lowCut: Hertz;
  readonly highCut: Hertz;
  readonly width: number;
}

const LINES = 16;
/** Lengths at full size, in seconds: spread evenly by their logarithms, none a multiple of another. */
const LENGTHS = [
  0.0311, 0.0337, 0.0359, 0.0389, 0.0421, 0.0449, 0.0487, 0.0523, 0.0563, 0.0607, 0.0653, 0.0701, 0.0757, 0.0817,
  0.0881, 0.0947,
];
/** All-passes before the network on each side, in seconds at full size. */
const DIFFUSERS = [
  [0.0047, 0.0036, 0.0127, 0.0093],
  [0.0051, 0.0033, 0.0119, 0.0101],
] as const;
/** First echoes of each side: seconds at full size, and gain. */
const EARLY = [
  [
    [0.0091, 0.84],
    [0.0153, -0.7],
    [0.0227, 0.62],
    [0.0311, -0.5],
    [0.0433, 0.42],
    [0.0571, -0.33],
  ],
  [
    [0.0107, 0.8],
    [0.0139, -0.72],
    [0.0251, 0.58],
    [0.0337, -0.48],
    [0.0397, 0.44],
    [0.0613, -0.31],
  ],
] as const;
const LONGEST_PRE_DELAY = 0.5;
const LONGEST_EARLY = 0.062;
/** Farthest that a wall moves, in seconds. */
const MOTION = 0.0004;
const TINY = 1e-18;

/** First echoes of a side: how many frames ago they were, are to be, and how loud they are. */
interface Echoes {
  readonly frames: Int32Array;
  readonly wanted: Int32Array;
  readonly gains: Float64Array;
}

/**
 * A large room: first echoes, all-passes that make them dense, and a feedback delay network of sixteen lines with a Hadamard matrix, whose walls absorb low, middle and
 * high differently and move a little (Jot and Chaigne, 1991; Dattorro, "Effect design, part 1", 1997; Schlecht, "Feedback delay networks in artificial reverberation", 2018).
 */
export class Hall {
  readonly ring: number;
  dry = 1;
  /** Of each line its past, how many frames of it are read (now, its step, and where that is to be), and where its wall is in its movement. */
  private readonly values: readonly Float32Array[];
  private readonly masks: Int32Array;
  private readonly lengths = new Float64Array(LINES).fill(Number.NaN);
  private readonly lengthSteps = new Float64Array(LINES);
  private readonly wanted = new Float64Array(LINES);
  private readonly phases = Float64Array.from({ length: LINES }, (_, i) => i / LINES);
  private readonly lowStates = new Float64Array(LINES);
  private readonly highStates = new Float64Array(LINES);
  /** What each wall lets through of low, middle and high: now, the step of each frame, and where it is to be. */
  private readonly lows = new Float64Array(LINES).fill(Number.NaN);
  private readonly mids = new Float64Array(LINES);
  private readonly highs = new Float64Array(LINES);
  private readonly bandSteps = new Float64Array(LINES * 3);
  private readonly bandAims = new Float64Array(LINES * 3);
  private readonly losses = new Float64Array(3);
  private readonly diffusers: readonly (readonly Diffuser[])[];
  private readonly diffuserFrames: Int32Array[];
  private readonly pre: Float32Array[];
  private readonly preMask: number;
  private readonly early: readonly Echoes[];
  private readonly walls: Walls;
  /** Whether what the walls let through is moving. */
  private turning = false;
  private frozen = false;
  private tuned = false;
  private readonly out = new Float64Array(LINES);
  private readonly cuts: readonly { readonly low: OnePole; readonly high: OnePole }[];
  private readonly mix = new Ramp();
  private readonly input = new Ramp();
  private readonly earlyLevel = new Ramp();
  private readonly width = new Ramp();
  private readonly preFrames = new Ramp();
  private at = 0;
  private lowShare = 0;
  private highShare = 0;
  private diffusion = 0;
  private motion = 0;

  constructor(private readonly rate: Hertz) {
    this.values = LENGTHS.map((seconds) => new Float32Array(2 ** Math.ceil(Math.log2(rate * (seconds + MOTION) + 8))));
    this.masks = Int32Array.from(this.values, (v) => v.length - 1);
    this.diffusers = DIFFUSERS.map((side) => side.map((seconds) => new Diffuser(Math.ceil(seconds * rate))));
    this.diffuserFrames = DIFFUSERS.map((side) => Int32Array.from(side.map((seconds) => Math.round(seconds * rate))));
    this.walls = new Walls(rate);
    const size = 2 ** Math.ceil(Math.log2(rate * (LONGEST_PRE_DELAY + LONGEST_EARLY) + 8));
    this.pre = [new Float32Array(size), new Float32Array(size)];
    this.preMask = size - 1;
    this.early = EARLY.map((side) => ({
      frames: new Int32Array(side.length),
      wanted: new Int32Array(side.length),
      gains: Float64Array.from(side.map(([, gain]) => gain)),
    }));
    this.cuts = [0, 1].map(() => ({ low: new OnePole(rate), high: new OnePole(rate) }));
    this.ring = Math.ceil(rate * (LONGEST_PRE_DELAY + 0.2));
  }

  tune(s: HallSettings): void {
    const { rate } = this;
    this.mix.aim(s.mix);
    this.input.aim(s.freeze ? 0 : 1);
    this.earlyLevel.aim(s.early);
    this.width.aim(s.width);
    this.preFrames.aim(Math.min(LONGEST_PRE_DELAY, s.preDelay) * rate);
    this.diffusion = 0.72 * s.diffusion;
    this.motion = s.motion * MOTION * rate;
    this.lowShare = shareOf(s.lowBelow, rate);
    this.highShare = shareOf(s.highAbove, rate);
    for (const { low, high } of this.cuts) {
      high.tune(s.lowCut);
      low.tune(s.highCut);
    }
    for (let side = 0; side < 2; side++) {
      const { wanted, frames } = this.early[side] as Echoes;
      (EARLY[side] as readonly (readonly [number, number])[]).forEach(([time], e) => {
        wanted[e] = Math.round(time * s.size * rate);
        if (!this.tuned) frames[e] = wanted[e] as number;
      });
    }
    this.tuned = true;
    this.frozen = s.freeze;
    this.walls.aim(s);
    const first = Number.isNaN(this.lows[0]);
    for (let i = 0; i < LINES; i++) {
      const seconds = (LENGTHS[i] as number) * s.size;
      this.wanted[i] = Math.max(4, seconds * rate);
      this.walls.solve(seconds, this.losses);
      this.bandAims.set(this.losses, i * 3);
      if (!first) continue;
      this.lengths[i] = this.wanted[i] as number;
      this.lows[i] = this.losses[0] as number;
      this.mids[i] = this.losses[1] as number;
      this.highs[i] = this.losses[2] as number;
    }
    this.turning = true;
  }

  /** The walls move. */
  control(): void {
    if (this.turning) this.turn();
    for (let i = 0; i < LINES; i++) {
      // Between 0.21 and 0.9 times a second, each another.
      const phase = (this.phases[i] as number) + ((0.21 + 0.046 * ((i * 7) % LINES)) * CONTROL) / this.rate;
      this.phases[i] = phase >= 1 ? phase - 1 : phase;
      const wanted = this.wanted[i] as number;
      // What is frozen isn't read between frames, by which it would grow dull.
      const target = this.frozen ? Math.round(wanted) : wanted + this.motion * Math.sin(2 * Math.PI * phase);
      // A room that is made larger or smaller glides there: its pitch bends by a third of a semitone at the most.
      const most = 0.02 * CONTROL;
      const gap = target - (this.lengths[i] as number);
      if (Math.abs(gap) < 1e-9) this.lengths[i] = target;
      this.lengthSteps[i] = Math.abs(gap) < 1e-9 ? 0 : (gap > most ? most : gap < -most ? -most : gap) / CONTROL;
    }
    for (let side = 0; side < 2; side++) {
      const { wanted, frames } = this.early[side] as Echoes;
      for (let e = 0; e < frames.length; e++)
        frames[e] = (frames[e] as number) + Math.sign((wanted[e] as number) - (frames[e] as number));
    }
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { values, masks, lengths, lengthSteps, lowStates, highStates, lows, mids, highs } = this;
    const { out, preMask, dry, lowShare, highShare, diffusion, turning } = this;
    const [preLeft, preRight] = this.pre as [Float32Array, Float32Array];
    let { at } = this;
    for (let i = from; i < to; i++) {
      const l = left[i] as number;
      const r = right[i] as number;
      preLeft[at & preMask] = l;
      preRight[at & preMask] = r;
      const back = this.preFrames.next();
      const whole = Math.floor(back);
      const part = back - whole;
      const a = at - whole;
      const inLeft = tap(preLeft, preMask, a, part);
      const inRight = tap(preRight, preMask, a, part);
      let firstLeft = 0;
      let firstRight = 0;
      const early = this.earlyLevel.next();
      if (early > 0) {
        firstLeft = early * this.echoes(0, preLeft, a);
        firstRight = early * this.echoes(1, preRight, a);
      }
      const input = this.input.next();
      const feedLeft = this.diffused(0, input * inLeft, diffusion);
      const feedRight = this.diffused(1, input * inRight, diffusion);
      for (let k = 0; k < LINES; k++) {
        const distance = (lengths[k] as number) + (lengthSteps[k] as number);
        lengths[k] = distance;
        const n = Math.floor(distance);
        const x = cubic(values[k] as Float32Array, masks[k] as number, at - n, distance - n);
        const below = (lowStates[k] as number) + lowShare * (x - (lowStates[k] as number));
        const above = (highStates[k] as number) + highShare * (x - (highStates[k] as number));
        lowStates[k] = below;
        highStates[k] = above;
        const mid = mids[k] as number;
        out[k] = mid * x + ((lows[k] as number) - mid) * below + ((highs[k] as number) - mid) * (x - above);
      }
      if (turning) this.step();
      hadamard(out);
      for (let k = 0; k < LINES; k++) {
        const feed = (k & 1 ? feedRight : feedLeft) * (k & 2 ? -0.35 : 0.35);
        (values[k] as Float32Array)[at & (masks[k] as number)] = (out[k] as number) + feed + TINY;
      }
      let wetLeft = 0;
      let wetRight = 0;
      for (let k = 0; k < LINES; k += 4) {
        wetLeft += (out[k] as number) - (out[k + 2] as number);
        wetRight += (out[k + 1] as number) - (out[k + 3] as number);
      }
      const [cutLeft, cutRight] = this.cuts as [{ low: OnePole; high: OnePole }, { low: OnePole; high: OnePole }];
      wetLeft = cutLeft.low.low(cutLeft.high.high(wetLeft + firstLeft));
      wetRight = cutRight.low.low(cutRight.high.high(wetRight + firstRight));
      const width = this.width.next();
      const mix = this.mix.next();
      const middle = (wetLeft + wetRight) / 2;
      const aside = (width * (wetLeft - wetRight)) / 2;
      left[i] = dry * l + mix * (middle + aside);
      right[i] = dry * r + mix * (middle - aside);
      at++;
    }
    this.at = at;
  }

  /** The walls let through what they are to within a control step; then they stand. */
  private turn(): void {
    this.turning = false;
    for (let i = 0; i < LINES; i++) {
      this.lows[i] = this.aim(i * 3, this.lows[i] as number);
      this.mids[i] = this.aim(i * 3 + 1, this.mids[i] as number);
      this.highs[i] = this.aim(i * 3 + 2, this.highs[i] as number);
    }
  }

  private aim(at: number, now: number): number {
    const aim = this.bandAims[at] as number;
    const there = Math.abs(aim - now) < 1e-9;
    if (!there) this.turning = true;
    this.bandSteps[at] = there ? 0 : (aim - now) / CONTROL;
    return there ? aim : now;
  }

  private step(): void {
    const { lows, mids, highs, bandSteps } = this;
    for (let i = 0; i < LINES; i++) {
      lows[i] = (lows[i] as number) + (bandSteps[i * 3] as number);
      mids[i] = (mids[i] as number) + (bandSteps[i * 3 + 1] as number);
      highs[i] = (highs[i] as number) + (bandSteps[i * 3 + 2] as number);
    }
  }

  private echoes(side: number, x: Float32Array, at: number): number {
    const { frames, gains } = this.early[side] as Echoes;
    let sum = 0;
    for (let e = 0; e < frames.length; e++)
      sum += (gains[e] as number) * (x[(at - (frames[e] as number)) & this.preMask] as number);
    return 0.5 * sum;
  }

  private diffused(side: number, x: number, gain: number): number {
    const row = this.diffusers[side] as readonly Diffuser[];
    const frames = this.diffuserFrames[side] as Int32Array;
    let y = x;
    for (let d = 0; d < row.length; d++) y = (row[d] as Diffuser).next(y, frames[d] as number, gain);
    return y;
  }

  reset(): void {
    for (const past of this.values) past.fill(0);
    this.lowStates.fill(0);
    this.highStates.fill(0);
    this.lengths.set(this.wanted);
    this.lengthSteps.fill(0);
    for (let i = 0; i < LINES; i++) this.phases[i] = i / LINES;
    for (const { frames, wanted } of this.early) frames.set(wanted);
    for (const side of this.diffusers) for (const d of side) d.clear();
    for (const side of this.pre) side.fill(0);
    for (const { low, high } of this.cuts) {
      low.reset();
      high.reset();
    }
  }
}

const tap = (x: Float32Array, mask: number, at: number, part: number): number => {
  const a = x[at & mask] as number;
  return a + part * ((x[(at - 1) & mask] as number) - a);
};

/** Mixes sixteen values by the Hadamard matrix, which keeps their power. */
function hadamard(x: Float64Array): void {
  for (let half = 1; half < LINES; half *= 2) {
    for (let from = 0; from < LINES; from += 2 * half) {
      for (let k = from; k < from + half; k++) {
        const a = x[k] as number;
        const b = x[k + half] as number;
        x[k] = a + b;
        x[k + half] = a - b;
      }
    }
  }
  for (let k = 0; k < LINES; k++) x[k] = (x[k] as number) * 0.25;
}
