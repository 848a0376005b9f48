import { type BentLine, lineAt } from "./bend";

export type LfoShape = "sine" | "triangle" | "saw" | "square" | "sampleAndHold" | "smooth" | "drawn";

/** A number in [−1, 1) that depends on a seed and a cycle only (integer hash after Wellons, "prospector", 2018). */
function noiseAt(seed: number, cycle: number): number {
  let x = (Math.imul(seed | 0, 0x9e3779b1) ^ (cycle | 0)) >>> 0;
  x = Math.imul(x ^ (x >>> 16), 0x7feb352d);
  x = Math.imul(x ^ (x >>> 15), 0x846ca68b);
  x = (x ^ (x >>> 16)) >>> 0;
  return x / 2147483648 - 1;
}

/**
 * Value (−1 to 1) of an LFO at a phase in cycles. The periodic shapes begin their cycle at phase 0, rising; the random ones take
 * a new value with each cycle, held or smoothly joined, decided by the seed; the drawn one follows its line (x 0–1).
 */
export function lfoAt(shape: LfoShape, phase: number, seed = 0, line: BentLine | null = null): number {
  const cycle = Math.floor(phase);
  const t = phase - cycle;
  switch (shape) {
    case "sine":
      return Math.sin(2 * Math.PI * t);
    case "triangle":
      return t < 0.25 ? 4 * t : t < 0.75 ? 2 - 4 * t : 4 * t - 4;
    case "saw":
      return 2 * t - 1;
    case "square":
      return t < 0.5 ? 1 : -1;
    case "sampleAndHold":
      return noiseAt(seed, cycle);
    case "smooth": {
      const from = noiseAt(seed, cycle);
      return from + (noiseAt(seed, cycle + 1) - from) * (0.5 - 0.5 * Math.cos(Math.PI * t));
    }
    case "drawn":
      return line ? lineAt(line, t) : 0;
  }
}
