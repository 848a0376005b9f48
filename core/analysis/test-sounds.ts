import { hertzOf, seededRandom } from "../audio";

export const RATE = 44100;
/** A plucked tone of ten partials over noise. */
export function pluck(note: number, seconds: number, noise: number, seed: number, level = 0.4): Float32Array {
  const random = seededRandom(seed);
  const f = hertzOf(note);
  const weights = Array.from({ length: 10 }, (_, k) => (0.4 + random()) / (k + 1));
  const phases = weights.map(() => random() * 6.28);
  const out = new Float32Array(Math.round(seconds * RATE));
  for (let i = 0; i < out.length; i++) {
    const t = i / RATE;
    let x = (random() * 2 - 1) * noise;
    for (let k = 0; k < 10 && (k + 1) * f < 18000; k++)
      x +=
        level *
        0.4 *
        (weights[k] ?? 0) *
        Math.exp(-t * (2 + k)) *
        Math.sin((phases[k] ?? 0) + 2 * Math.PI * f * (k + 1) * t);
    out[i] = x * (i < 40 ? i / 40 : 1);
  }
  return out;
}
