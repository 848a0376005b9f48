import type { Seconds } from "../audio";
import type { Sample } from "../instrument";

/** A release to begin with, and what it was taken from, as the end of a sentence. */
export interface FittingRelease {
  readonly seconds: Seconds;
  readonly why: string;
}

/** Sounds shorter than that are let ring to their end. */
const SHORT: Seconds = 0.6;
const SUSTAINED: Seconds = 0.25;

/** A release that fits sounds: of short ones as long as they are, of sustained ones short, of others a third of their usual length; null for no sounds. */
export function fittingRelease(samples: readonly Pick<Sample, "frames" | "rate" | "file">[]): FittingRelease | null {
  const lengths = samples.map((s) => s.frames / s.rate).sort((a, b) => a - b);
  const usual = lengths[Math.floor((lengths.length - 1) / 2)];
  if (usual === undefined) return null;
  const rounded = (x: number): number => Math.round(x * 100) / 100;
  const looped = samples.filter((s) => s.file?.loop).length;
  if (looped > samples.length / 2) return { seconds: SUSTAINED, why: "as their loops sustain them" };
  if (usual < SHORT) return { seconds: Math.max(0.05, rounded(usual)), why: "as long as most of them are" };
  return {
    seconds: rounded(Math.min(0.8, Math.max(0.2, usual / 3))),
    why: "a third of their usual length, 0.8 s at the most",
  };
}
