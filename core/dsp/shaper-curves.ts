/** What the voices' shaper bends along: two curves that press, and an oscillator's waves. */
export type ShaperCurve = "soft" | "hard" | "fold" | "triangle" | "saw" | "pulse";

/** A triangle that rises through nothing and turns at ±1, every 4. */
const triangle = (u: number): number => 1 - Math.abs(u - 1 - 4 * Math.round((u - 1) / 4));

/** What a curve makes of a value, as the kernel of cells/shaper.ts has it of one that stands still. */
export function curveAt(curve: ShaperCurve, u: number): number {
  switch (curve) {
    case "soft":
      return u / Math.sqrt(1 + u * u);
    case "hard":
      return Math.max(-1, Math.min(1, u));
    case "fold":
      return Math.sin((Math.PI / 2) * u);
    case "triangle":
      return triangle(u);
    case "saw":
      return u - 2 * Math.round(u / 2);
    case "pulse":
      return 2 * (triangle(u + 0.75) + triangle(u - 0.75));
  }
}
