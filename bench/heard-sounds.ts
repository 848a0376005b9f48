import { type Audio, seededRandom } from "../core/audio";

const RATE = 44100;
const SECONDS = 5;
/** Seconds between which each of these sounds is held: its attack is over, and its release has not begun. */
export const HELD = { from: 0.6, to: 4 } as const;
const RELEASE = 0.5;
/** Noise of a quiet room and its preamplifier beneath everything, as a share of full scale. */
const FLOOR = 1e-4;

type Voice = (t: number) => number;

/** A held sound as a room would hear it: half a tenth of a second to rise, a release at its end, a floor of noise beneath. */
function played(seed: number, seconds: number, channels: readonly Voice[], attack = 0.05): Audio {
  const random = seededRandom(1000 + seed);
  const last = seconds - RELEASE;
  return {
    rate: RATE,
    channels: channels.map((valueAt) =>
      Float32Array.from({ length: seconds * RATE }, (_, i) => {
        const t = i / RATE;
        const gain = Math.min(1, t / attack) * (t > last ? Math.exp(-9 * (t - last)) : 1);
        return gain * valueAt(t) + FLOOR * (2 * random() - 1);
      }),
    ),
  };
}

/** Noise that is bent by one pole towards low frequencies. */
function breath(seed: number, softness: number): Voice {
  const random = seededRandom(seed);
  let state = 0;
  return () => {
    state += softness * (2 * random() - 1 - state);
    return state;
  };
}

/** Sounds of the workshop as a microphone would have them, by what makes their loops hard. Each holds from 0.6 s to 4 s. */
export function heardSounds(seed: number, seconds = SECONDS): Readonly<Record<string, Audio>> {
  const random = seededRandom(seed);
  const f = 98 * 2 ** (random() * 2);
  const r = 4.5 + 2 * random();
  const phases = Array.from({ length: 24 }, () => random() * 6.28);
  const p = (k: number): number => phases[k % 24] as number;
  const turn = (hertz: number, t: number, k = 0): number => Math.sin(2 * Math.PI * hertz * t + p(k));
  /** Partials of a tone whose phase is given in turns. */
  const rich = (turns: number, many: number, fall: number, k0 = 0): number => {
    let sum = 0;
    for (let k = 1; k <= many; k++) sum += Math.sin(2 * Math.PI * k * turns + p(k + k0)) / k ** fall;
    return sum;
  };
  const bent = (t: number, cents: number, rate: number): number =>
    f * t + (f * (2 ** (cents / 1200) - 1) * turn(rate, t, 3)) / (2 * Math.PI * rate);
  const [air, scrape, left, right] = [
    breath(seed + 1, 0.5),
    breath(seed + 2, 0.9),
    breath(seed + 3, 0.2),
    breath(seed + 4, 0.2),
  ];
  const choir = (side: number): Voice => {
    const singers = Array.from({ length: 6 }, (_, n) => ({
      rate: 0.3 + 0.2 * n,
      off: 1 + (n - 2.5) * 0.003,
      pan: side === 0 ? (n + 1) / 7 : 1 - (n + 1) / 7,
    }));
    return (t) =>
      0.06 *
      singers.reduce(
        (s, v, n) => s + v.pan * rich(f * v.off * t + 0.02 * Math.sin(2 * Math.PI * v.rate * t + n), 8, 1.2, n),
        0,
      );
  };
  const [near, far] = [choir(0), choir(1)];
  return {
    "a steady pipe": played(seed, seconds, [(t) => 0.2 * rich(f * t, 10, 1.3)]),
    "a voice with vibrato": played(seed, seconds, [(t) => 0.15 * rich(bent(t, 35, r), 14, 1)]),
    "a bowed wheel": played(seed, seconds, [(t) => 0.15 * rich(bent(t, 12, r), 18, 0.9) + 0.02 * scrape(t)]),
    "a flute of tube": played(seed, seconds, [
      (t) => (0.25 + 0.05 * turn(r, t, 5)) * rich(bent(t, 8, r), 5, 1.6) + 0.05 * air(t),
    ]),
    tremolo: played(seed, seconds, [(t) => 0.2 * 10 ** ((4 * turn(r, t)) / 20) * rich(f * t, 6, 1.2)]),
    "two bells that beat": played(seed, seconds, [
      (t) => 0.2 * (turn(f, t) + 0.75 * turn(f + 1.7, t, 1) + 0.3 * turn(2.76 * f, t, 2)),
    ]),
    "a choir": played(seed, seconds, [(t) => 1.2 * (near(t) + far(t))]),
    "a choir in stereo": played(seed, seconds, [near, far]),
    "air from two sides": played(seed, seconds, [(t) => left(t), (t) => 0.7 * right(t) + 0.3 * left(t)]),
    air: played(seed, seconds, [(t) => 0.4 * scrape(t)]),
    "a hum": played(seed, seconds, [(t) => 0.5 * air(t) + 0.02 * turn(50, t)]),
    "a string that dies away": played(
      seed,
      seconds,
      [
        (t: number) => {
          let sum = 0;
          for (let k = 1; k <= 10; k++) sum += (Math.exp(-(0.25 + 0.09 * k) * t) / k) * turn(f * k, t, k);
          return 0.3 * sum;
        },
      ],
      0.003,
    ),
  };
}
