import { findModes } from "../core/analysis";
import { seededRandom } from "../core/audio";
import { type Figure, round } from "./figure";

const RATE = 48000;
const SOUNDS = 60;
const NOISE = 10 ** (-60 / 20);
/** Modes above this count as missed where they aren't found. */
const AUDIBLE = -50;

interface Truth {
  readonly hertz: number;
  readonly level: number;
  readonly decay: number;
}

/** From 8 to 40 modes of one body: anywhere from 80 Hz to 9 kHz, three lines' breadths apart at the least; the loudest has the amplitude 1. */
function bodyOf(random: () => number): Truth[] {
  const count = 8 + Math.floor(random() * 33);
  const modes: Truth[] = [];
  for (let tries = 0; modes.length < count && tries < 4000; tries++) {
    const hertz = 80 * (9000 / 80) ** random();
    const decay = 0.15 * (4 / 0.15) ** random() * (hertz < 1000 ? 1 : (1000 / hertz) ** 0.5);
    const breadth = 2.2 / decay;
    if (modes.some((m) => Math.abs(m.hertz - hertz) < 3 * Math.max(breadth, 2.2 / m.decay))) continue;
    modes.push({ hertz, decay, level: modes.length === 0 ? 0 : -48 * random() });
  }
  return modes;
}

/** A hit after 50 ms of noise: sines that die away, and white noise at −60 dB of the loudest. */
function hitOf(modes: readonly Truth[], random: () => number): Float32Array {
  const x = Float32Array.from({ length: RATE * 2 }, () => (random() + random() + random() - 1.5) * 2 * NOISE * 0.5);
  const at = Math.round(RATE * 0.05);
  for (const { hertz, level, decay } of modes) {
    const phase = random() * 2 * Math.PI;
    for (let i = at; i < x.length; i++) {
      const t = (i - at) / RATE;
      x[i] = (x[i] as number) + 0.5 * 10 ** (level / 20 - (3 * t) / decay) * Math.sin(2 * Math.PI * hertz * t + phase);
    }
  }
  return x;
}

/** The standard deviation, in percent, that noise leaves of any unbiased estimate of a mode's decay (Cramér and Rao). */
function leastError({ level, decay }: Truth): number {
  const fall = (3 * Math.LN10) / (decay * RATE);
  const energy = (0.5 * 10 ** (level / 20)) ** 2 / (4 * fall);
  return 200 / Math.sqrt(energy / (0.5 * NOISE) ** 2);
}

/** How well modes are recovered from sums of decaying sines with noise. */
export function modes(): Figure[] {
  const off: number[] = [];
  const decays: number[] = [];
  const levels: number[] = [];
  let [missed, invented, audible, took, apart] = [0, 0, 0, 0, 0];
  for (let seed = 1; seed <= SOUNDS; seed++) {
    const random = seededRandom(seed);
    const truth = bodyOf(random);
    const x = hitOf(truth, random);
    const began = performance.now();
    const found = findModes(x, RATE, { most: 128 });
    took = Math.max(took, performance.now() - began);
    const free = new Set(found);
    for (const mode of truth) {
      let best: (typeof found)[number] | null = null;
      for (const f of free) if (Math.abs(f.hertz - mode.hertz) < Math.abs((best?.hertz ?? 1e9) - mode.hertz)) best = f;
      const near = best && Math.abs(best.hertz / mode.hertz - 1) < 0.005 ? best : null;
      if (mode.level > AUDIBLE) audible++;
      if (!near) {
        if (mode.level > AUDIBLE) missed++;
        continue;
      }
      free.delete(near);
      off.push(Math.abs(near.hertz / mode.hertz - 1) * 100);
      const wrong = Math.abs(near.decay / mode.decay - 1) * 100;
      decays.push(wrong);
      if (wrong > Math.max(5, 3 * leastError(mode))) apart++;
      levels.push(Math.abs(near.level - mode.level));
    }
    invented += free.size;
  }
  const worst = (list: number[]) => Math.max(...list);
  const within = (list: number[], limit: number) => (100 * list.filter((x) => x <= limit).length) / list.length;
  const figure = (name: string, value: number, unit: string, hold: string, pass: boolean): Figure => ({
    name: `modes: ${name}`,
    value: round(value, 3),
    unit,
    against: `${SOUNDS} seeded sums of 8–40 sines, ${audible} modes`,
    hold,
    pass,
  });
  return [
    figure("frequency off by, at the most", worst(off), "%", "≤ 0.1 %", worst(off) <= 0.1),
    figure("decay within 5 %", within(decays, 5), "% of them", "≥ 99.5 %", within(decays, 5) >= 99.5),
    figure("decay off by more than 5 % and than noise leaves (3 × Cramér and Rao)", apart, "modes", "0", apart === 0),
    figure("level off by, at the most", worst(levels), "dB", "≤ 1 dB", worst(levels) <= 1),
    figure("missed above −50 dB", missed, "modes", "0", missed === 0),
    figure("invented", invented, "modes", "0", invented === 0),
    figure("longest search", took / 1000, "s", "≤ 10 s", took <= 10000),
  ];
}
