import type { Hertz } from "../audio";

export type FilterMode = "low" | "band" | "high" | "off";

/** Coefficients of the state-variable filter: g = tan(π·cutoff/rate), damping k, and the weights of input, band and low output. */
export interface SvfCoefficients {
  g: number;
  k: number;
  m0: number;
  m1: number;
  m2: number;
}

/** Damping for a resonance of 0 to 1: from 1.6 (broad) to 0.02 (nearly ringing), with equal factors. */
export const dampingOf = (resonance: number): number => 1.6 * 0.0125 ** Math.min(1, Math.max(0, resonance));

/**
 * Tunes the trapezoidal state-variable filter of Zavalishin ("The Art of VA Filter Design", 2012) into `out`, from its cutoff and damping k. The cutoff is
 * held below 0.49 of the rate. The band pass is scaled to 0 dB at its centre.
 */
export function tuneSvf(out: SvfCoefficients, mode: FilterMode, cutoff: Hertz, k: number, rate: Hertz): void {
  out.g = Math.tan(Math.PI * Math.min(0.49, Math.max(1e-5, cutoff / rate)));
  out.k = k;
  switch (mode) {
    case "low":
      out.m0 = 0;
      out.m1 = 0;
      out.m2 = 1;
      return;
    case "band":
      out.m0 = 0;
      out.m1 = k;
      out.m2 = 0;
      return;
    case "high":
      out.m0 = 1;
      out.m1 = -k;
      out.m2 = -1;
      return;
    case "off":
      out.m0 = 1;
      out.m1 = 0;
      out.m2 = 0;
  }
}

/** Magnitude (a factor) of the filter's response at a frequency, from its analogue prototype through the bilinear map. */
export function svfResponse(mode: FilterMode, cutoff: Hertz, resonance: number, rate: Hertz, frequency: Hertz): number {
  if (mode === "off") return 1;
  const k = dampingOf(resonance);
  const w = Math.tan(Math.PI * Math.min(0.4999, frequency / rate)) / Math.tan(Math.PI * Math.min(0.49, cutoff / rate));
  const bottom = Math.hypot(1 - w * w, k * w);
  return (mode === "low" ? 1 : mode === "band" ? k * w : w * w) / bottom;
}
