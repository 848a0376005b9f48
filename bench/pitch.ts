import { PitchFinder } from "../core/analysis";
import { hertzOf, noteOf, type Random, seededRandom } from "../core/audio";
import { type Figure, round } from "./figure";

const RATE = 44100;
const TAKES = 400;

type Kind = "plucked" | "struck" | "bright";

/** One generated sound over noise at −40 dB of its level. */
function sound(kind: Kind, note: number, random: Random): Float32Array {
  const f = hertzOf(note);
  const stiffness = kind === "plucked" ? 4e-5 : 1e-5;
  const partials = Array.from({ length: 24 }, (_, i) => i + 1).filter((k) => k * f < 17000);
  const parts = partials.map((k) => ({
    step: (2 * Math.PI * k * f * Math.sqrt(1 + stiffness * k * k)) / RATE / Math.sqrt(1 + stiffness),
    weight:
      (kind === "bright"
        ? 1 / k ** 0.6
        : kind === "struck"
          ? 1 / k ** 1.8
          : Math.abs(Math.sin(0.2 * Math.PI * k)) / k) *
      (0.6 + 0.8 * random()),
    rate: kind === "bright" ? 0.5 : 1.5 + 0.5 * k + f / 300,
    phase: random() * 2 * Math.PI,
  }));
  const out = new Float32Array(Math.round((0.5 + random()) * RATE));
  let peak = 0;
  for (let i = 0; i < out.length; i++) {
    let x = 0;
    for (const p of parts) x += p.weight * Math.exp((-p.rate * i) / RATE) * Math.sin(p.phase + p.step * i);
    out[i] = x * Math.min(1, i / 60);
    peak = Math.max(peak, Math.abs(x));
  }
  for (let i = 0; i < out.length; i++) out[i] = (out[i] ?? 0) + (random() * 2 - 1) * peak * 0.01 * Math.sqrt(3);
  return out;
}

/** Pitch of generated takes of three kinds, 40 to 2000 Hz, with noise at −40 dB. */
export function pitch(): Figure[] {
  const random = seededRandom(31);
  const finder = new PitchFinder(RATE);
  let close = 0;
  let octave = 0;
  for (let i = 0; i < TAKES; i++) {
    const note = noteOf(40 * 50 ** ((i + random()) / TAKES));
    const kind = (["plucked", "struck", "bright"] as const)[i % 3] ?? "plucked";
    const error = Math.abs((finder.find(sound(kind, note, random)).note ?? -99) - note);
    if (error <= 0.05) close++;
    if (error < 1) octave++;
  }
  const share = (n: number) => round((100 * n) / TAKES, 1);
  return [
    {
      name: "pitch within 5 cents, 40–2000 Hz, noise −40 dB",
      value: share(close),
      unit: "% of takes",
      hold: "≥ 95 %",
      pass: close / TAKES >= 0.95,
    },
    {
      name: "pitch in the right octave",
      value: share(octave),
      unit: "% of takes",
      hold: "≥ 99 %",
      pass: octave / TAKES >= 0.99,
    },
  ];
}
