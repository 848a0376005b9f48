import { hertzOf, type Random, seededRandom } from "../core/audio";

export const RATE = 44100;
const { sin, exp, PI, round, min } = Math;

export const KINDS = ["pluck", "tap", "bell", "breath"] as const;
export type Kind = (typeof KINDS)[number];

/** A made-up sound of a kind and pitch: made for the benchmarks, by other means than the demo's. */
export function makeHit(kind: Kind, note: number, seconds: number, random: Random): Float32Array {
  const frames = round(seconds * RATE);
  const out = new Float32Array(frames);
  const f = hertzOf(note);
  const partial = (frequency: number, level: number, decay: number, rise: number) => {
    if (frequency > 18000) return;
    const phase = random() * 2 * PI;
    const step = (2 * PI * frequency) / RATE;
    for (let i = 0; i < frames; i++) {
      const x = level * exp((-decay * i) / RATE) * sin(phase + step * i);
      out[i] = (out[i] as number) + x * min(1, i / rise);
    }
  };
  switch (kind) {
    case "pluck":
      for (let k = 1; k <= 12; k++)
        partial(k * f * (1 + 3e-5 * k * k), (0.5 + random() * 0.5) / k ** 1.2, 2 + 0.5 * k, 30);
      break;
    case "tap":
      for (const [ratio, level] of [
        [1, 1],
        [1.59, 0.6],
        [2.14, 0.5],
        [2.3, 0.3],
        [3.16, 0.2],
      ] as const)
        partial(f * ratio, level, 18 + 6 * ratio, 12);
      for (let i = 0; i < min(frames, 400); i++) out[i] = (out[i] as number) + (random() - 0.5) * exp(-i / 90);
      break;
    case "bell":
      for (const [ratio, level, decay] of [
        [0.5, 0.3, 1.2],
        [1, 0.8, 1.6],
        [1.2, 0.6, 2],
        [1.5, 0.25, 2.5],
        [2, 1, 2.2],
        [2.66, 0.4, 4],
        [4.1, 0.25, 6],
      ] as const)
        partial(f * ratio, level, decay, 15);
      break;
    case "breath": {
      let [a, b] = [0, 0];
      const w = (2 * PI * min(f * 3, 6000)) / RATE;
      for (let i = 0; i < frames; i++) {
        const x = random() * 2 - 1;
        a += w * (x - b - 0.5 * a);
        b += w * a;
        out[i] = a * min(1, i / (0.012 * RATE)) * exp((-3.5 * i) / RATE);
      }
      break;
    }
  }
  // Each ends in silence, as a sound that is let ring and then damped.
  const fade = min(round(0.06 * RATE), frames);
  let most = 1e-9;
  for (const x of out) if (x > most) most = x;
  for (let i = 0; i < frames; i++) {
    const tail = min(1, (frames - 1 - i) / fade);
    out[i] = ((out[i] as number) / most) * tail;
  }
  return out;
}

export interface HitTake {
  readonly samples: Float32Array;
  readonly onsets: readonly number[];
  readonly kinds: readonly Kind[];
}

/** A take of hits at known places over white noise of a level in dBFS. Separated hits have pauses of 80 ms to 3 s between them; others ring into the next. */
export function makeTake(seed: number, noise: number, separated: boolean, count = 40): HitTake {
  const random = seededRandom(seed);
  const parts: { at: number; sound: Float32Array; kind: Kind }[] = [];
  let at = round(0.8 * RATE);
  for (let i = 0; i < count; i++) {
    const kind = KINDS[Math.floor(random() * KINDS.length)] ?? "pluck";
    const seconds = (kind === "tap" ? 0.25 : 0.5) + random() * 0.8;
    const level = 0.15 + random() * 0.6;
    const sound = makeHit(kind, 45 + random() * 35, seconds, random).map((x) => x * level);
    parts.push({ at, sound, kind });
    const gap = separated ? sound.length / RATE + 0.08 * (3 / 0.08) ** random() : 0.18 + random() * 0.5;
    at += round(gap * RATE);
  }
  const samples = new Float32Array(at + RATE);
  const gain = 10 ** (noise / 20) * Math.sqrt(3);
  for (let i = 0; i < samples.length; i++) samples[i] = (random() * 2 - 1) * gain;
  for (const { at: from, sound } of parts)
    for (let i = 0; i < sound.length && from + i < samples.length; i++)
      samples[from + i] = (samples[from + i] as number) + (sound[i] as number);
  return { samples, onsets: parts.map((p) => p.at), kinds: parts.map((p) => p.kind) };
}
