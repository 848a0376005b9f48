import type { Decibels, Hertz } from "../audio";

export type FilterMode = "low" | "band" | "high" | "notch" | "peak" | "off" | "lowShelf" | "highShelf";
export type FilterCharacter = "clean" | "ladder";
export type FilterSlope = "6" | "12" | "18" | "24";

/** Damping for a resonance of 0 to 1: from 1.6 (broad) to 0.02 (nearly ringing), with equal factors. */
export const dampingOf = (resonance: number): number => 1.6 * 0.0125 ** Math.min(1, Math.max(0, resonance));

/** The resonance that has a damping; the inverse of dampingOf, kept between 0 and 1. */
export const resonanceOf = (damping: number): number =>
  Math.min(1, Math.max(0, Math.log(damping / 1.6) / Math.log(0.0125)));

/** Middle C in octaves above 1 Hz: there a filter that follows something is as it was set. */
export const MIDDLE_C = Math.log2(440) - 9 / 12;

/** The resonance with which the clean filter rings as long at a cutoff (octaves above 1 Hz) as it does with `resonance` at middle C: the damping falls as the cutoff rises. */
export const steadyResonance = (resonance: number, cutoff: number): number =>
  resonanceOf(dampingOf(resonance) * 2 ** (MIDDLE_C - cutoff));

/** Feedback of the ladder for a resonance of 0 to 1; at 4 it rings by itself. */
export const feedbackOf = (resonance: number): number => 4.2 * Math.min(1, Math.max(0, resonance));

/** One section: one pole or two, its damping k, and the weights of input, band and low output (Zavalishin, 2012). */
export interface SectionDesign {
  poles: 0 | 1 | 2;
  k: number;
  m0: number;
  m1: number;
  m2: number;
}

/** Damping of a Butterworth filter of two poles, and of the two halves of one of four. */
const FLAT = Math.SQRT2;
const FLAT_FIRST = 2 * Math.cos(Math.PI / 8);
const FLAT_SECOND = 2 * Math.cos((3 * Math.PI) / 8);

/**
 * Octaves by which a filter's poles stand beside its cutoff: a shelf's half height is at the cutoff (Zavalishin, 2012, on tilting and shelving filters).
 * `lift` in decibels.
 */
export function poleShift(mode: FilterMode, character: FilterCharacter, lift: Decibels): number {
  if (mode !== "lowShelf" && mode !== "highShelf") return 0;
  // The ladder's shelf has one pole, whose way from one height to the other is twice as long.
  const octaves = (lift * Math.log2(10)) / (character === "ladder" ? 40 : 80);
  return mode === "lowShelf" ? -octaves : octaves;
}

/** What a shelf or a peak needs of decibels: its factor there. */
const heightOf = (lift: Decibels): number => 10 ** (lift / 20);

function shape(out: SectionDesign, mode: FilterMode, poles: 1 | 2, k: number, lift: Decibels): void {
  out.poles = poles;
  out.k = k;
  const set = (m0: number, m1: number, m2: number): void => {
    out.m0 = m0;
    out.m1 = m1;
    out.m2 = m2;
  };
  if (mode === "low") set(0, 0, 1);
  else if (mode === "high") poles === 1 ? set(1, 0, -1) : set(1, -k, -1);
  else if (mode === "band") set(0, k, 0);
  else if (mode === "notch") set(1, -k, 0);
  else if (mode === "peak") {
    const height = heightOf(lift);
    // One that takes away is what the same lift adds, turned round.
    out.k = height < 1 ? k / height : k;
    set(1, out.k * (height - 1), 0);
  } else if (mode === "lowShelf") {
    const half = heightOf(lift / 2);
    set(1, k * (half - 1), half * half - 1);
  } else if (mode === "highShelf") {
    const half = heightOf(lift / 2);
    set(half * half, k * half * (1 - half), 1 - half * half);
  } else set(1, 0, 0);
}

/**
 * Designs the clean filter as up to two sections in a row. Low and high pass have 6 to 24 dB per octave, arranged so that with the
 * damping √2 each is a Butterworth filter; the resonance acts on one pair of poles. Band and notch have one section, or with
 * 18 and 24 dB the same one twice; peak and shelves have one, and change the level by `lift` decibels.
 */
export function designFilter(
  first: SectionDesign,
  second: SectionDesign,
  mode: FilterMode,
  slope: FilterSlope,
  resonance: number,
  lift: Decibels,
): void {
  const k = dampingOf(resonance);
  second.poles = 0;
  if (mode === "low" || mode === "high") {
    if (slope === "6") shape(first, mode, 1, 1, lift);
    else if (slope === "12") shape(first, mode, 2, k, lift);
    else if (slope === "18") {
      shape(first, mode, 2, k / FLAT, lift);
      shape(second, mode, 1, 1, lift);
    } else {
      shape(first, mode, 2, (k / FLAT) * FLAT_SECOND, lift);
      shape(second, mode, 2, FLAT_FIRST, lift);
    }
    return;
  }
  shape(first, mode, 2, k, lift);
  if ((slope === "18" || slope === "24") && (mode === "band" || mode === "notch")) shape(second, mode, 2, k, lift);
}

/** Weights of the ladder's input and its four poles for a mode and slope. Misses a slope where it has none. */
export function ladderWeights(mode: FilterMode, slope: FilterSlope, lift: Decibels, out: Float64Array): void {
  out.fill(0);
  const steep = slope === "24" || slope === "18";
  const set = (...w: number[]): void => out.set(w);
  switch (mode) {
    case "low":
      out[Number(slope) / 6] = 1;
      return;
    case "high":
      if (slope === "6") set(1, -1);
      else if (slope === "12") set(1, -2, 1);
      else if (slope === "18") set(1, -3, 3, -1);
      else set(1, -4, 6, -4, 1);
      return;
    case "band":
      if (steep) set(0, 0, 4, -8, 4);
      else set(0, 2, -2);
      return;
    case "notch":
      set(1, -2, 2);
      return;
    case "peak":
      set(1, 2 * (heightOf(lift) - 1), -2 * (heightOf(lift) - 1));
      return;
    case "lowShelf":
      set(1, heightOf(lift) - 1);
      return;
    case "highShelf":
      set(heightOf(lift), 1 - heightOf(lift));
      return;
    case "off":
      set(1);
  }
}

const wOf = (cutoff: Hertz, rate: Hertz, frequency: Hertz): number =>
  Math.tan(Math.PI * Math.min(0.4999, frequency / rate)) / Math.tan(Math.PI * Math.min(0.49, cutoff / rate));

function sectionResponse({ poles, k, m0, m1, m2 }: SectionDesign, w: number): number {
  if (poles === 0) return 1;
  if (poles === 1) return Math.hypot(m0 + m2, m0 * w) / Math.hypot(1, w);
  // (m0 s² + (m0 k + m1) s + m0 + m2) / (s² + k s + 1) at s = jw.
  return Math.hypot(m0 + m2 - m0 * w * w, (m0 * k + m1) * w) / Math.hypot(1 - w * w, k * w);
}

/** What a filter's response depends on. */
export interface FilterSettings {
  readonly mode: FilterMode;
  readonly slope: FilterSlope;
  readonly character: FilterCharacter;
  readonly cutoff: Hertz;
  readonly resonance: number;
  /** What peak and shelves add, or take away. */
  readonly lift: Decibels;
  /** Whether it rings as long at every cutoff, instead of as wide in octaves. */
  readonly steady?: boolean;
}

/** Magnitude (a factor) of the filter's response at a frequency, for soft sounds, from its analogue prototype through the bilinear map. */
export function filterResponse(settings: FilterSettings, rate: Hertz, frequency: Hertz): number {
  const { mode, slope, character, cutoff, lift } = settings;
  if (mode === "off") return 1;
  const resonance =
    settings.steady && character === "clean"
      ? steadyResonance(settings.resonance, Math.log2(cutoff))
      : settings.resonance;
  const w = wOf(cutoff * 2 ** poleShift(mode, character, lift), rate, frequency);
  if (character === "clean") {
    const first: SectionDesign = { poles: 0, k: 1, m0: 1, m1: 0, m2: 0 };
    const second: SectionDesign = { poles: 0, k: 1, m0: 1, m1: 0, m2: 0 };
    designFilter(first, second, mode, slope, resonance, lift);
    return sectionResponse(first, w) * sectionResponse(second, w);
  }
  const weights = new Float64Array(5);
  ladderWeights(mode, slope, lift, weights);
  // One pole is 1 / (1 + jw); the sum of the taps over 1 + k · pole⁴.
  const size = 1 / (1 + w * w);
  let re = 1;
  let im = 0;
  let sumRe = 0;
  let sumIm = 0;
  for (let i = 0; i < 5; i++) {
    sumRe += (weights[i] as number) * re;
    sumIm += (weights[i] as number) * im;
    if (i === 4) break;
    [re, im] = [(re + im * w) * size, (im - re * w) * size];
  }
  const k = feedbackOf(resonance);
  return Math.hypot(sumRe, sumIm) / Math.hypot(1 + k * re, k * im);
}
