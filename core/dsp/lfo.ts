export type LfoShape = "sine" | "triangle" | "saw" | "square";

/** Value (−1 to 1) of an LFO at a phase in cycles; every shape begins its cycle at phase 0, rising. */
export function lfoAt(shape: LfoShape, phase: number): number {
  const t = phase - Math.floor(phase);
  switch (shape) {
    case "sine":
      return Math.sin(2 * Math.PI * t);
    case "triangle":
      return t < 0.25 ? 4 * t : t < 0.75 ? 2 - 4 * t : 4 * t - 4;
    case "saw":
      return 2 * t - 1;
    case "square":
      return t < 0.5 ? 1 : -1;
  }
}
