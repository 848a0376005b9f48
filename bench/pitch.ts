import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PitchFinder } from "../core/analysis";
import { hertzOf, noteOf, type Random, seededRandom } from "../core/audio";
import { writeWav } from "../core/formats";
import { type Figure, round } from "./figure";

const RATE = 44100;
/** Takes for each kind and each level of noise. */
const TAKES = 34;
const KINDS = ["plucked", "struck", "bright", "hollow"] as const;
const NOISES = [-60, -40, -30] as const;

type Kind = (typeof KINDS)[number];

function weightOf(kind: Kind, k: number): number {
  switch (kind) {
    case "plucked":
      return Math.abs(Math.sin(0.2 * Math.PI * k)) / k;
    case "struck":
      return 1 / k ** 1.8;
    case "bright":
      return 1 / k ** 0.6;
    case "hollow":
      return k % 2 ? (k === 1 ? 0.25 : 1 / k) : 0.05 / k;
  }
}

/** One generated sound over white noise at a level below its peak. */
function sound(kind: Kind, note: number, noise: number, random: Random): Float32Array {
  const f = hertzOf(note);
  const stiffness = kind === "plucked" ? 4e-5 : 1e-5;
  const out = new Float32Array(Math.round((0.5 + random()) * RATE));
  for (let k = 1; k <= 24 && k * f < 17000; k++) {
    const step = (2 * Math.PI * k * f * Math.sqrt(1 + stiffness * k * k)) / RATE / Math.sqrt(1 + stiffness);
    const weight = weightOf(kind, k) * (0.6 + 0.8 * random());
    const loss = Math.exp(-(kind === "bright" ? 0.5 : 1.5 + 0.5 * k + f / 300) / RATE);
    const phase = random() * 2 * Math.PI;
    const [c, s] = [loss * Math.cos(step), loss * Math.sin(step)];
    let [re, im] = [weight * Math.cos(phase), weight * Math.sin(phase)];
    for (let i = 0; i < out.length; i++) {
      out[i] = (out[i] as number) + im * Math.min(1, i / 60);
      [re, im] = [re * c - im * s, im * c + re * s];
    }
  }
  let peak = 0;
  for (const x of out) peak = Math.max(peak, Math.abs(x));
  const gain = peak * 10 ** (noise / 20) * Math.sqrt(3);
  for (let i = 0; i < out.length; i++) out[i] = ((out[i] as number) + (random() * 2 - 1) * gain) * (0.5 / peak);
  return out;
}

interface Score {
  close: number;
  octave: number;
  all: number;
}
const empty = (): Score => ({ close: 0, octave: 0, all: 0 });

function count(score: Score, found: number | null, truth: number): void {
  const error = Math.abs((found ?? -99) - truth);
  score.all++;
  if (error <= 0.05) score.close++;
  if (error < 1) score.octave++;
}

const share = (n: number, all: number) => round((100 * n) / all, 1);

/** What the free aubio-tools say of a file: the median of their estimates after the attack. */
function aubio(path: string): number | null {
  const out = execFileSync("aubiopitch", ["-i", path, "-u", "midi", "-B", "4096", "-H", "512"], {
    encoding: "utf8",
    stdio: ["ignore", "pipe", "ignore"],
  });
  const notes = out
    .split("\n")
    .map((line) => line.split(/\s+/).map(Number))
    .flatMap(([time = 0, note = 0]) => (time > 0.04 && note > 0 ? [note] : []))
    .sort((a, b) => a - b);
  return notes[Math.floor(notes.length / 2)] ?? null;
}

/** Pitch of generated takes of four kinds, 40 to 2000 Hz, at three levels of noise; the same files by aubio-tools. */
export function pitch(): Figure[] {
  const random = seededRandom(31);
  const finder = new PitchFinder(RATE);
  const folder = mkdtempSync(join(tmpdir(), "vise-pitch-"));
  const figures: Figure[] = [];
  try {
    for (const noise of NOISES) {
      const ours = empty();
      const theirs = empty();
      for (let i = 0; i < TAKES * KINDS.length; i++) {
        const note = noteOf(40 * 50 ** ((i + random()) / (TAKES * KINDS.length)));
        const made = sound(KINDS[i % KINDS.length] ?? "plucked", note, noise, random);
        count(ours, finder.find(made).note, note);
        const path = join(folder, "take.wav");
        writeFileSync(path, writeWav({ rate: RATE, channels: [made] }, 24));
        count(theirs, aubio(path), note);
      }
      const held = noise <= -40;
      const close = share(ours.close, ours.all);
      const octave = share(ours.octave, ours.all);
      const [theirClose, theirOctave] = [share(theirs.close, theirs.all), share(theirs.octave, theirs.all)];
      figures.push(
        {
          name: `pitch within 5 cents, 40–2000 Hz, noise ${noise} dB`,
          value: close,
          unit: "% of takes",
          against: `aubio-tools ${theirClose} %`,
          hold: held ? "≥ 95 %, and above aubio-tools" : "above aubio-tools",
          pass: (!held || close >= 95) && close > theirClose,
        },
        {
          name: `pitch in the right octave, noise ${noise} dB`,
          value: octave,
          unit: "% of takes",
          against: `aubio-tools ${theirOctave} %`,
          hold: held ? "≥ 99 %, not below aubio-tools" : "not below aubio-tools",
          pass: (!held || octave >= 99) && octave >= theirOctave,
        },
      );
    }
  } finally {
    rmSync(folder, { recursive: true });
  }
  return figures;
}
