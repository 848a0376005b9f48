import type { Hertz } from "../../audio";

/** Between four values by the cubic that goes through them (Lagrange); `part`: from the second towards the third, which is older. */
export function cubic(x: Float32Array, mask: number, at: number, part: number): number {
  const a = x[(at + 1) & mask] as number;
  const b = x[at & mask] as number;
  const c = x[(at - 1) & mask] as number;
  const d = x[(at - 2) & mask] as number;
  const c1 = c - a / 3 - b / 2 - d / 6;
  const c2 = (a + c) / 2 - b;
  const c3 = (d - a) / 6 + (b - c) / 2;
  return ((c3 * part + c2) * part + c1) * part + b;
}

/** What the cubic leaves of a frequency, in the mean over all places between two frames. */
export function cubicKeeps(hertz: Hertz, rate: Hertz): number {
  const w = (2 * Math.PI * hertz) / rate;
  let sum = 0;
  for (let n = 0; n < 16; n++) {
    const t = (n + 0.5) / 16;
    const taps = [
      (-t * (t - 1) * (t - 2)) / 6,
      ((t + 1) * (t - 1) * (t - 2)) / 2,
      (-(t + 1) * t * (t - 2)) / 2,
      ((t + 1) * t * (t - 1)) / 6,
    ];
    let re = 0;
    let im = 0;
    taps.forEach((tap, k) => {
      re += tap * Math.cos(w * k);
      im += tap * Math.sin(w * k);
    });
    sum += Math.log(Math.hypot(re, im));
  }
  return Math.exp(sum / 16);
}
