import { fftOf, hertzOf } from "../core/audio";
import { compileKernels, startKernels } from "../core/dsp";
import { compile, Engine } from "../core/engine";
import { addUnit, type Instrument, newInstrument, newUnit, setParam, setSource, together } from "../core/instrument";
import type { ParamId, UnitKind } from "../core/units";
import { type Figure, round } from "./figure";

const RATE = 48000;
const SIZE = 2 ** 16;
const KERNELS = compileKernels();
/** Every key of a keyboard of 88, in steps that aren't octaves. */
const KEYS = Array.from({ length: 18 }, (_, i) => 21 + i * 5);
/** Bins beside a harmonic that are its window's. */
const BESIDE = 6;
const SOURCE = "layers/main/source";

interface Case {
  readonly name: string;
  readonly kind: UnitKind;
  readonly params: { readonly [I in ParamId]?: number | string };
  /** A shaper behind it. */
  readonly shaper?: { readonly [I in ParamId]?: number | string };
  /** What it must stay below, in decibels of its loudest harmonic, and up to which key. */
  readonly hold: number;
  readonly upTo?: number;
  /** Frequency up to which is looked, where what lies above it is let fold: nobody hears it. */
  readonly below?: number;
}

const CASES: readonly Case[] = [
  { name: "saw", kind: "oscillator", params: { wave: "saw" }, hold: -90 },
  { name: "triangle", kind: "oscillator", params: { wave: "triangle" }, hold: -90 },
  { name: "pulse of 30 %", kind: "oscillator", params: { wave: "pulse", width: 0.3 }, hold: -90 },
  {
    name: "half a saw, half a pulse",
    kind: "oscillator",
    params: { wave: "saw", secondWave: "pulse", blend: 0.5 },
    hold: -88,
  },
  {
    name: "sine bent by 80 %",
    kind: "oscillator",
    params: { wave: "sine", phaseDistortion: 0.8 },
    hold: -90,
    upTo: 96,
  },
  { name: "sine fed by 30 %", kind: "oscillator", params: { wave: "sine", feedback: 0.3 }, hold: -60, upTo: 84 },
  {
    name: "synced saw, 19.5 semitones above",
    kind: "oscillator",
    params: { wave: "saw", hardSync: "on", syncPitch: 19.5 },
    hold: -90,
    upTo: 96,
    below: 20000,
  },
  {
    name: "synced sine, 19.5 semitones above",
    kind: "oscillator",
    params: { wave: "sine", hardSync: "on", syncPitch: 19.5 },
    hold: -90,
    upTo: 96,
    below: 20000,
  },
  {
    name: "synced pulse, 7 semitones above",
    kind: "oscillator",
    params: { wave: "pulse", hardSync: "on", syncPitch: 7 },
    hold: -90,
    upTo: 96,
    below: 20000,
  },
  { name: "impulses", kind: "impulses", params: {}, hold: -90 },
  { name: "impulses tilted by −6 dB", kind: "impulses", params: { tilt: -6 }, hold: -80 },
  { name: "16 partials", kind: "partials", params: {}, hold: -90 },
  {
    name: "sine, soft shaper, 12 dB",
    kind: "oscillator",
    params: { wave: "sine" },
    shaper: { curve: "soft", drive: 12 },
    hold: -60,
    upTo: 84,
  },
  {
    name: "sine, hard shaper, 12 dB",
    kind: "oscillator",
    params: { wave: "sine" },
    shaper: { curve: "hard", drive: 12 },
    hold: -40,
    upTo: 84,
  },
  {
    name: "sine, folding shaper, 12 dB",
    kind: "oscillator",
    params: { wave: "sine" },
    shaper: { curve: "fold", drive: 12 },
    hold: -60,
    upTo: 84,
  },
  ...(["triangle", "saw", "pulse"] as const).map((curve) => ({
    name: `sine, along a ${curve}, 12 dB`,
    kind: "oscillator" as const,
    params: { wave: "sine" },
    shaper: { curve, drive: 12 },
    hold: curve === "saw" ? -20 : -35,
    upTo: 84,
  })),
];

function instrumentOf({ kind, params, shaper }: Case): Instrument {
  const made = setSource("main", kind).apply(newInstrument("bench", "Bench"));
  const staged = shaper ? addUnit("layers/main/stages", newUnit("shaper", "s")).apply(made) : made;
  return together("", [
    ...Object.entries(params).map(([id, value]) => setParam(staged, `${SOURCE}/${id}`, value)),
    ...Object.entries(shaper ?? {}).map(([id, value]) => setParam(staged, `layers/main/stages/s/${id}`, value)),
    setParam(staged, "layers/main/stages/filter/type", "off"),
    setParam(staged, "layers/main/amp/sustain", 1),
    setParam(staged, "layers/main/strip/velocity", 0),
    setParam(staged, "effects/reverb/mix", 0),
    setParam(staged, "play/level", -12),
  ]).apply(staged);
}

/** The loudest of what is no harmonic of the key, in decibels of the loudest harmonic. */
function worstAlias(sound: Case, key: number): number {
  const engine = new Engine(startKernels(KERNELS), { rate: RATE });
  engine.setPlan(compile(instrumentOf(sound)));
  engine.midi(0x90, key, 100);
  const settle = RATE / 2;
  const left = new Float32Array(settle + SIZE);
  const right = new Float32Array(left.length);
  for (let at = 0; at < left.length; at += 128) engine.render(left, right, at, Math.min(left.length, at + 128));
  const re = Float64Array.from({ length: SIZE }, (_, i) => {
    const t = (2 * Math.PI * i) / SIZE;
    // Seven terms (Albrecht, 2001): side lobes below −180 dB.
    const w =
      0.27122036 -
      0.43344461 * Math.cos(t) +
      0.21800412 * Math.cos(2 * t) -
      0.06578534 * Math.cos(3 * t) +
      0.01076187 * Math.cos(4 * t) -
      0.00077001 * Math.cos(5 * t) +
      0.00001368 * Math.cos(6 * t);
    return (left[settle + i] as number) * w;
  });
  const im = new Float64Array(SIZE);
  fftOf(SIZE).forward(re, im);
  const first = (hertzOf(key) * SIZE) / RATE;
  let [loudest, alias] = [0, 0];
  for (let k = 12; k < Math.min(SIZE / 2, ((sound.below ?? RATE) * SIZE) / RATE); k++) {
    const size = Math.hypot(re[k] as number, im[k] as number);
    const away = Math.abs(k - Math.max(1, Math.round(k / first)) * first);
    if (away <= BESIDE + 2) loudest = Math.max(loudest, size);
    else alias = Math.max(alias, size);
  }
  return 20 * Math.log10(alias / loudest);
}

/** The worst alias of sources and shapers over all keys. */
export function alias(): Figure[] {
  return CASES.map((sound) => {
    const keys = KEYS.filter((key) => key <= (sound.upTo ?? 127));
    const levels = keys.map((key) => worstAlias(sound, key));
    const worst = Math.max(...levels);
    const at = keys[levels.indexOf(worst)] ?? 0;
    return {
      name: `alias: ${sound.name}`,
      value: round(worst, 1),
      unit: "dB of its loudest harmonic, at the most",
      against: `its harmonics, keys ${keys[0]}–${keys.at(-1)}; worst at ${at}`,
      hold: `≤ ${sound.hold} dB`,
      pass: worst <= sound.hold,
    };
  });
}
