import { seededRandom } from "../audio";

export const RATE = 44100;
/** A sound from its value at each second; `attack` seconds to rise. */
export const made = (seconds: number, valueAt: (t: number) => number, attack = 0.05): Float32Array =>
  Float32Array.from({ length: Math.round(RATE * seconds) }, (_, i) => {
    const t = i / RATE;
    return Math.min(1, t / attack) * valueAt(t);
  });
const turn = (hertz: number, t: number, phase = 0): number => Math.sin(2 * Math.PI * hertz * t + phase);

/** A tone whose level swings by so many decibels, so many times a second. */
export const swinging = (decibels: number, hertz: number, phase = 0): Float32Array =>
  made(5, (t) => 0.2 * 10 ** (((decibels / 2) * turn(hertz, t, phase)) / 20) * turn(220, t));

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

/** A beat as a tool would make it: a low thud on the first and third beat of each bar, a clack on the others, a tick on every half; so many bars from second `lead` on. */
export function testBeat(seed: number, tempo: number, bars: number, lead = 0): Float32Array {
  const random = seededRandom(seed);
  const out = new Float32Array(Math.round(RATE * (lead + (bars * 4 * 60) / tempo)));
  const hit = (seconds: number, length: number, level: number, valueAt: (t: number) => number) => {
    const at = Math.round((lead + seconds) * RATE);
    for (let i = 0; i < length * RATE && at + i < out.length; i++) {
      const t = i / RATE;
      out[at + i] = (out[at + i] as number) + level * Math.exp((-6 * t) / length) * valueAt(t);
    }
  };
  const beat = 60 / tempo;
  for (let n = 0; n < bars * 8; n++) {
    const t = (n * beat) / 2;
    const loud = 0.8 + 0.4 * random();
    if (n % 4 === 0)
      hit(t, 0.25, (n % 8 === 0 ? 0.8 : 0.6) * loud, (s) => Math.sin(2 * Math.PI * (55 + 60 * Math.exp(-30 * s)) * s));
    else if (n % 4 === 2) hit(t, 0.12, 0.4 * loud, () => random() * 2 - 1);
    if (n % 2 === 1) hit(t, 0.03, 0.15 * loud, () => random() * 2 - 1);
  }
  for (let i = 0; i < out.length; i++) out[i] = (out[i] as number) + 0.0005 * (random() - 0.5);
  return out;
}
