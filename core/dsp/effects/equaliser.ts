import type { Decibels, Hertz } from "../../audio";
import { CONTROL } from "../kernels/layout";

export type BandKind = "off" | "lowCut" | "lowShelf" | "bell" | "highShelf" | "highCut";

/** What a band is set to. */
export interface BandSettings {
  readonly kind: BandKind;
  readonly frequency: Hertz;
  readonly gain: Decibels;
  /** Of a bell its width, of a cut its resonance: 0.7 is flat, more is narrower. */
  readonly q: number;
}

/** Numbers of a state-variable filter: its tangent, damping, and the weights of input, band and low output. */
interface Design {
  g: number;
  k: number;
  m0: number;
  m1: number;
  m2: number;
}

/** The design of a band (A. Simper, "Linear trapezoidal state variable filter", 2013). */
function design(out: Design, { kind, frequency, gain, q }: BandSettings, rate: Hertz): void {
  const a = 10 ** (gain / 40);
  out.g = Math.tan(Math.PI * Math.min(0.49, frequency / rate));
  out.k = 1 / q;
  out.m0 = 1;
  out.m1 = 0;
  out.m2 = 0;
  switch (kind) {
    case "lowCut":
      out.m1 = -out.k;
      out.m2 = -1;
      break;
    case "highCut":
      out.m0 = 0;
      out.m2 = 1;
      break;
    case "bell":
      out.k = 1 / (q * a);
      out.m1 = out.k * (a * a - 1);
      break;
    case "lowShelf":
      out.g /= Math.sqrt(a);
      out.m1 = out.k * (a - 1);
      out.m2 = a * a - 1;
      break;
    case "highShelf":
      out.g *= Math.sqrt(a);
      out.m0 = a * a;
      out.m1 = out.k * (1 - a) * a;
      out.m2 = 1 - a * a;
      break;
    case "off":
  }
}

/** Magnitude of a band at a frequency, as a factor: the analytic response of what is computed. */
export function bandResponse(settings: BandSettings, rate: Hertz, frequency: Hertz): number {
  if (settings.kind === "off") return 1;
  const d: Design = { g: 0, k: 0, m0: 0, m1: 0, m2: 0 };
  design(d, settings, rate);
  // On the imaginary axis, bent as the bilinear transform does: s = j·tan(πf/rate)/g.
  const w = Math.tan(Math.PI * Math.min(0.4999, frequency / rate)) / d.g;
  const re = 1 - w * w;
  const im = d.k * w;
  const norm = re * re + im * im;
  // m0 + (m1·s + m2) / (s² + k·s + 1)
  const numRe = d.m2;
  const numIm = d.m1 * w;
  const outRe = d.m0 + (numRe * re + numIm * im) / norm;
  const outIm = (numIm * re - numRe * im) / norm;
  return Math.hypot(outRe, outIm);
}

/** One band for both channels; what it is set to is reached within one control step. */
export class Band {
  kind: BandKind = "off";
  private readonly next: Design = { g: 0, k: 0, m0: 1, m1: 0, m2: 0 };
  /** a1, a2, a3, m0, m1, m2: now, where they are to be, and their steps. */
  private readonly now = new Float64Array(6);
  private readonly wanted = new Float64Array(6);
  private readonly steps = new Float64Array(6);
  private left = 0;
  private tuned = false;
  private readonly memory = new Float64Array(4);

  constructor(private readonly rate: Hertz) {}

  tune(settings: BandSettings): void {
    const { next, now, wanted, steps } = this;
    design(next, settings, this.rate);
    const a1 = 1 / (1 + next.g * (next.g + next.k));
    wanted[0] = a1;
    wanted[1] = next.g * a1;
    wanted[2] = next.g * next.g * a1;
    wanted[3] = next.m0;
    wanted[4] = next.m1;
    wanted[5] = next.m2;
    this.kind = settings.kind;
    if (!this.tuned) now.set(wanted);
    this.tuned = true;
    this.left = 0;
    for (let i = 0; i < 6; i++) {
      steps[i] = ((wanted[i] as number) - (now[i] as number)) / CONTROL;
      if (steps[i] !== 0) this.left = CONTROL;
    }
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    if (this.kind === "off" && this.left === 0) return;
    const { now, memory } = this;
    for (let i = from; i < to; i++) {
      if (this.left > 0) this.move();
      const a1 = now[0] as number;
      const a2 = now[1] as number;
      const a3 = now[2] as number;
      for (let c = 0; c < 2; c++) {
        const x = (c === 0 ? left[i] : right[i]) as number;
        const s1 = memory[c * 2] as number;
        const s2 = memory[c * 2 + 1] as number;
        const v3 = x - s2;
        const v1 = a1 * s1 + a2 * v3;
        const v2 = s2 + a2 * s1 + a3 * v3;
        memory[c * 2] = 2 * v1 - s1;
        memory[c * 2 + 1] = 2 * v2 - s2;
        const y = (now[3] as number) * x + (now[4] as number) * v1 + (now[5] as number) * v2;
        if (c === 0) left[i] = y;
        else right[i] = y;
      }
    }
  }

  private move(): void {
    const { now, wanted, steps } = this;
    this.left--;
    for (let k = 0; k < 6; k++)
      now[k] = this.left === 0 ? (wanted[k] as number) : (now[k] as number) + (steps[k] as number);
    // Once it lets everything past it begins anew when it is wanted again.
    if (this.left === 0 && this.kind === "off") this.memory.fill(0);
  }

  reset(): void {
    this.memory.fill(0);
  }
}

/** Bands in a row. */
export class Equaliser {
  readonly ring: number;
  readonly bands: readonly Band[];

  constructor(rate: Hertz, count: number) {
    this.bands = Array.from({ length: count }, () => new Band(rate));
    this.ring = Math.ceil(rate * 0.2);
  }

  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    for (let b = 0; b < this.bands.length; b++) (this.bands[b] as Band).process(left, right, from, to);
  }

  reset(): void {
    for (const band of this.bands) band.reset();
  }
}
