import { seededRandom } from "../audio";

export const RATE = 44100;
/** A sound from its value at each second; `attack` seconds to rise. */
export const made = (seconds: number, valueAt: (t: number) => number, attack = 0.05): Float32Array =>
  Float32Array.from({ length: Math.round(RATE * seconds) }, (_, i) => {
    const t = i / RATE;
    return Math.min(1, t / attack) * valueAt(t);
  });
const turn = (hertz: number, t: number): number => Math.sin(2 * Math.PI * hertz * t);

/** Sounds of the workshop as a computer would make them, by what they are to loops; all begin with an attack. */
export function testSounds(seed: number): Readonly<Record<string, readonly Float32Array[]>> {
  const random = seededRandom(seed);
  const f = 110 * 2 ** (random() * 2);
  const r = 3 + 3 * random();
  const phases = Array.from({ length: 8 }, () => random() * 6.28);
  const p = (k: number): number => phases[k] as number;
  const partials = (t: number, gain: (k: number) => number): number =>
    [1, 2, 3, 4, 5].reduce((sum, k) => sum + gain(k) * Math.sin(2 * Math.PI * f * k * t + p(k)), 0);
  let smooth = 0;
  return {
    steady: [made(3, (t) => partials(t, (k) => 0.3 / k))],
    vibrato: [made(4, (t) => 0.3 * Math.sin(2 * Math.PI * f * t + 3 * turn(r, t)))],
    tremolo: [made(4, (t) => (0.3 + 0.06 * turn(r, t)) * (turn(f, t) + 0.3 * turn(2 * f, t)))],
    pluck: [made(4, (t) => partials(t, (k) => (0.4 / k) * Math.exp(-(0.6 + 0.3 * k) * t)), 0.002)],
    choir: [
      made(
        5,
        (t) => 0.08 * phases.reduce((s, ph, k) => s + Math.sin(2 * Math.PI * f * (1 + (k - 3.5) * 0.0014) * t + ph), 0),
      ),
    ],
    noise: [made(4, () => 0.4 * (random() - 0.5))],
    hiss: [
      made(4, () => {
        smooth += 0.08 * (random() - 0.5 - smooth);
        return smooth;
      }),
    ],
    stereo: [made(4, (t) => 0.3 * turn(f, t)), made(4, (t) => 0.2 * turn(f, t - 0.0007) + 0.05 * turn(2 * f, t))],
    drift: [made(4, (t) => 0.3 * Math.sin(2 * Math.PI * (f * t + 0.004 * f * t * t)))],
  };
}
