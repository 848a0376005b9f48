import { hertzOf, type Random, seededRandom } from "../core/audio";

export const RATE = 44100;
const { sin, exp, PI, round, min } = Math;

export const KINDS = ["pluck", "tap", "bell", "breath"] as const;
export type Kind = (typeof KINDS)[number];

/** A made-up sound of a kind and pitch: made for the benchmarks, by other means than the demo's. */
function makeHit(kind: Kind, note: number, seconds: number, random: Random): Float32Array {
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

interface HitTake {
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

/** What a take holds beside its sounds: things that are to be proposed for leaving out. */
const ACCIDENTS = ["bump", "click", "speech"] as const;
type Accident = (typeof ACCIDENTS)[number];

/** A handling bump, a click of a switch, or a few words, at full level. */
function makeAccident(kind: Accident, random: Random): Float32Array {
  const seconds = kind === "bump" ? 0.25 : kind === "click" ? 0.02 : 0.6;
  const out = new Float32Array(round(seconds * RATE));
  const phase = random() * PI;
  const low = 38 + 12 * random();
  let voice = 0;
  for (let i = 0; i < out.length; i++) {
    const t = i / RATE;
    if (kind === "bump") out[i] = sin(2 * PI * low * t + phase) * exp(-14 * t) * min(1, t * 200);
    else if (kind === "click") out[i] = (random() * 2 - 1) * exp(-900 * t);
    else {
      // A low voice that goes up and down, with a few formants.
      const f = 105 + 30 * sin(2 * PI * 2.2 * t + phase) + 18 * sin(2 * PI * 5.1 * t);
      voice += (2 * PI * f) / RATE;
      let x = 0;
      for (let k = 1; k <= 14; k++) x += (sin(voice * k) / k) * (k > 4 && k < 8 ? 2 : 1);
      out[i] = 0.3 * x * sin((PI * t) / seconds);
    }
  }
  return out;
}

interface MixedTake {
  readonly samples: Float32Array;
  /** Where the sounds begin, and where the accidents do. */
  readonly onsets: readonly number[];
  readonly accidents: readonly { readonly at: number; readonly kind: Accident }[];
}

/** A take of given sounds, each after a pause, with accidents among them, over white noise of a level in dBFS. */
function mixTake(
  sounds: readonly { readonly sound: Float32Array; readonly level: number; readonly pause: number }[],
  accidents: number,
  noise: number,
  random: Random,
): MixedTake {
  const parts: { at: number; sound: Float32Array; level: number; accident: Accident | null }[] = [];
  let at = round(0.8 * RATE);
  const every = accidents > 0 ? Math.floor(sounds.length / accidents) : Number.POSITIVE_INFINITY;
  sounds.forEach(({ sound, level, pause }, i) => {
    parts.push({ at, sound, level, accident: null });
    at += round(pause * RATE);
    if ((i + 1) % every !== 0) return;
    const accident = ACCIDENTS[Math.floor(random() * ACCIDENTS.length)] ?? "bump";
    at += round(0.3 * RATE);
    parts.push({ at, sound: makeAccident(accident, random), level: 0.25, accident });
    at += RATE;
  });
  const samples = new Float32Array(at + RATE);
  const gain = 10 ** (noise / 20) * Math.sqrt(3);
  for (let i = 0; i < samples.length; i++) samples[i] = (random() * 2 - 1) * gain;
  for (const { at: from, sound, level } of parts)
    for (let i = 0; i < sound.length && from + i < samples.length; i++)
      samples[from + i] = (samples[from + i] as number) + level * (sound[i] as number);
  return {
    samples,
    onsets: parts.filter((p) => !p.accident).map((p) => p.at),
    accidents: parts.flatMap((p) => (p.accident ? [{ at: p.at, kind: p.accident }] : [])),
  };
}

/** A dry knock of so many milliseconds. */
function makeKnock(milliseconds: number, random: Random): Float32Array {
  const frames = round((milliseconds / 1000) * RATE);
  const out = new Float32Array(frames);
  const f = 300 + random() * 1500;
  const fall = 5 / (milliseconds / 1000);
  for (let i = 0; i < frames; i++) {
    const t = i / RATE;
    out[i] = (0.7 * sin(2 * PI * f * t) + 0.5 * (random() * 2 - 1) * exp(-300 * t)) * exp(-fall * t) * min(1, i / 8);
  }
  return out;
}

/** A low thud, as of a drum. */
function makeThud(random: Random): Float32Array {
  const out = new Float32Array(round(0.35 * RATE));
  const f = 52 + random() * 6;
  for (let i = 0; i < out.length; i++) {
    const t = i / RATE;
    out[i] = sin(2 * PI * (f * t + 1.2 * (1 - exp(-40 * t)))) * exp(-9 * t) * min(1, i / 40);
  }
  return out;
}

/** A drum with a tone of its own, of so many hertz, that rings longer than a thud. */
function makeDrum(f: number, random: Random): Float32Array {
  const out = new Float32Array(round(0.9 * RATE));
  for (let i = 0; i < out.length; i++) {
    const t = i / RATE;
    out[i] =
      (sin(2 * PI * f * t) * exp(-6 * t) +
        0.25 * sin(2 * PI * f * 1.59 * t) * exp(-12 * t) +
        0.15 * (random() * 2 - 1) * exp(-160 * t)) *
      min(1, i / 30);
  }
  return out;
}

/** Takes of the kinds that people record, by name. */
export const TAKES: Readonly<Record<string, (random: Random, noise: number) => MixedTake>> = {
  "a kit": (random, noise) => {
    const sounds = Array.from({ length: 48 }, (_, i) => {
      const which = i % 4;
      const sound =
        which === 0
          ? makeThud(random)
          : which === 1
            ? makeKnock(25, random)
            : which === 2
              ? makeHit("breath", 80, 0.4, random)
              : makeHit("tap", 60, 0.3, random);
      return { sound, level: 0.25 + 0.5 * random(), pause: 0.7 + 0.4 * random() };
    });
    return mixTake(sounds, 3, noise, random);
  },
  "knocks in a room": (random, noise) =>
    mixTake(
      Array.from({ length: 30 }, () => ({
        sound: makeKnock(20 + 40 * random(), random),
        level: 10 ** ((noise + 22 + 20 * random()) / 20),
        pause: 0.35 + 0.4 * random(),
      })),
      0,
      noise,
      random,
    ),
  "a kit with a few of each, low drums among them": (random, noise) => {
    const strengths = (make: () => Float32Array, count: number, pause: number) =>
      Array.from({ length: count }, (_, i) => ({
        sound: make(),
        level: 0.8 * 10 ** ((-7 * (i % 4)) / 20),
        pause: pause + 0.3 * random(),
      }));
    return mixTake(
      [
        ...strengths(() => makeThud(random), 4, 0.7),
        ...strengths(() => makeDrum(72, random), 4, 1.2),
        ...strengths(() => makeDrum(96, random), 4, 1.1),
        ...strengths(() => makeHit("breath", 80, 0.4, random), 8, 0.8),
        ...strengths(() => makeHit("tap", 60, 0.3, random), 8, 0.8),
        ...strengths(() => makeHit("bell", 84, 2, random), 8, 2.4),
        ...strengths(() => makeKnock(25, random), 4, 0.6),
      ],
      4,
      noise,
      random,
    );
  },
  "strings from the lowest up": (random, noise) =>
    mixTake(
      Array.from({ length: 46 }, (_, i) => ({
        sound: makeHit("pluck", 28 + 2 * (i >> 1), 1.6, random),
        level: i % 2 === 0 ? 0.12 : 0.5,
        pause: 2,
      })),
      4,
      noise,
      random,
    ),
  "short knocks among what rings": (random, noise) =>
    mixTake(
      Array.from({ length: 30 }, (_, i) => ({
        sound: i % 5 === 4 ? makeKnock(40, random) : makeHit("bell", 62 + i, 3, random),
        level: 0.3 + 0.4 * random(),
        pause: i % 5 === 4 ? 0.6 : 3.4,
      })),
      3,
      noise,
      random,
    ),
  "faint strings": (random, noise) =>
    mixTake(
      Array.from({ length: 55 }, (_, i) => ({
        sound: makeHit("pluck", 43 + (i >> 1), 1.1, random),
        // The softest stands 22 dB above the room.
        level: 10 ** ((noise + 22 + 8 * (i % 3)) / 20),
        pause: 1.5,
      })),
      4,
      noise,
      random,
    ),
  "very soft layers": (random, noise) =>
    mixTake(
      Array.from({ length: 48 }, (_, i) => ({
        sound: makeHit("pluck", 45 + 3 * (i >> 2), 1.2, random),
        // Four strengths of each note; the softest stands 24 dB above the room.
        level: 10 ** ((noise + 24 + 9 * (i % 4)) / 20),
        pause: 1.6,
      })),
      4,
      noise,
      random,
    ),
};
