import { type Preset, rowsBy } from "./preset";

export const filter: readonly Preset<"filter">[] = [
  { name: "Warm", params: { type: "low", slope: "12", model: "clean", cutoff: 1200, resonance: 0.1 } },
  {
    name: "Dark and ringing",
    params: { type: "low", slope: "24", model: "ladder", cutoff: 500, resonance: 0.6, drive: 6 },
  },
  { name: "Telephone", params: { type: "band", slope: "12", model: "clean", cutoff: 1400, resonance: 0.3 } },
  { name: "Thin", params: { type: "high", slope: "12", model: "clean", cutoff: 500, resonance: 0.1 } },
  { name: "A notch", params: { type: "notch", slope: "12", model: "clean", cutoff: 900, resonance: 0.5 } },
  { name: "Whistle", params: { type: "peak", slope: "12", model: "clean", cutoff: 2500, resonance: 0.8 } },
  { name: "More body", params: { type: "lowShelf", cutoff: 250, resonance: 0.05, gain: 8 } },
  { name: "Less glare", params: { type: "highShelf", cutoff: 4000, resonance: 0.05, gain: -9 } },
  {
    name: "Rubbed ladder",
    params: { type: "low", slope: "24", model: "ladder", cutoff: 1800, resonance: 0.3, drive: 18 },
  },
];

/** Modes of a bar that is free at both ends, of a stretched skin and of a closed shell, as multiples of the lowest. */
const BAR = [1, 2.756, 5.404, 8.933, 13.345, 18.64];
const SKIN = [1, 1.594, 2.136, 2.296, 2.653, 2.918, 3.156, 3.501, 3.6, 3.652, 4.06, 4.154];
const BELL = [0.5, 1, 1.183, 1.506, 2, 2.514, 2.662, 3.011, 4.166, 5.433, 6.796, 8.215];
const modesOf = (ratios: readonly number[], slope: number, ring: number, law: number) =>
  ratios.map((ratio, i) => ({ ratio, level: -slope * i, decay: Math.min(60, ring / ratio ** law) }));

export const resonator: readonly Preset<"resonator">[] = [
  { name: "Steel bar", params: {}, table: modesOf(BAR, 3, 5, 0.8) },
  { name: "Wooden bar", params: { damping: 0.6 }, table: modesOf(BAR, 5, 0.5, 0.7) },
  { name: "Skin", params: {}, table: modesOf(SKIN, 2, 0.7, 0.6) },
  { name: "Cast bell", params: {}, table: modesOf(BELL, 2, 9, 0.9) },
  {
    name: "String",
    params: { strikePosition: 0.14 },
    table: rowsBy(40, (n) => ({ ratio: n, level: -0.4 * n, decay: 4 / n ** 0.6 })),
  },
  {
    name: "Tube, closed at one end",
    params: {},
    table: rowsBy(14, (n) => ({ ratio: 2 * n - 1, level: -1.5 * n, decay: 0.6 / n ** 0.5 })),
  },
  {
    name: "Sheet of tin",
    params: { compensation: 0.5 },
    table: rowsBy(96, (n) => ({
      ratio: 1 + 0.42 * n ** 0.92 * (1 + 0.08 * Math.sin(n * 5.1)),
      level: -0.18 * n,
      decay: 1.8 / (1 + n / 30),
    })),
  },
  { name: "Glass", params: {}, table: modesOf([1, 2.32, 4.25, 6.63, 9.38], 5, 2.5, 0.5) },
];

export const comb: readonly Preset<"comb">[] = [
  { name: "Plucked wire", params: { mix: 1, decay: 2.5, damping: 5000 } },
  { name: "Muted wire", params: { mix: 1, decay: 0.3, damping: 1800 } },
  { name: "Pipe, one end open", params: { mix: 1, decay: 0.8, damping: 3000, ends: "open" } },
  { name: "An octave above", params: { mix: 0.5, decay: 1, damping: 8000, transpose: 12 } },
  { name: "Long and dark", params: { mix: 0.8, decay: 9, damping: 900 } },
  { name: "Tin can", params: { mix: 0.6, decay: 0.15, damping: 12000, transpose: 19 } },
];

export const shaper: readonly Preset<"shaper">[] = [
  { name: "Warmth", params: { curve: "soft", drive: 9 } },
  { name: "Bite", params: { curve: "soft", drive: 24, bias: 0.15 } },
  { name: "Clipped", params: { curve: "hard", drive: 18 } },
  { name: "Folded once", params: { curve: "fold", drive: 12 } },
  { name: "Folded often", params: { curve: "fold", drive: 30 } },
  { name: "Along a triangle", params: { curve: "triangle", drive: 18 } },
  { name: "Along a saw", params: { curve: "saw", drive: 8 } },
  { name: "Along a pulse", params: { curve: "pulse", drive: 9 } },
  { name: "Lopsided", params: { curve: "hard", drive: 15, bias: 0.5 } },
];

export const vowel: readonly Preset<"vowel">[] = [
  { name: "Ee", params: { vowel: 0 } },
  { name: "Eh", params: { vowel: 0.25 } },
  { name: "Ah", params: { vowel: 0.5 } },
  { name: "Aw", params: { vowel: 0.75 } },
  { name: "Oo", params: { vowel: 1 } },
  { name: "Child", params: { vowel: 0.4, size: 7 } },
  { name: "Giant", params: { vowel: 0.6, size: -7, width: 1.5 } },
  { name: "Through a hose", params: { vowel: 0.7, width: 0.4, mix: 1 } },
];

export const allpass: readonly Preset<"allpass">[] = [
  { name: "One notch", params: { stages: "2", centre: 900, feedback: 0 } },
  { name: "Two notches", params: { stages: "4", centre: 700, feedback: 0.3 } },
  { name: "Sharp notches", params: { stages: "6", centre: 1200, feedback: 0.7 } },
  { name: "Six notches", params: { stages: "12", centre: 800, feedback: 0.4 } },
  { name: "Hollow", params: { stages: "4", centre: 300, feedback: -0.6 } },
  { name: "Airy", params: { stages: "8", centre: 5000, feedback: 0.2 } },
];

export const ring: readonly Preset<"ring">[] = [
  { name: "A fifth", params: { ratio: 1.5 } },
  { name: "An octave", params: { ratio: 2, mix: 0.5 } },
  { name: "Clang", params: { ratio: Math.SQRT2 } },
  { name: "Tremble", params: { tunedBy: "frequency", frequency: 6, mix: 0.6 } },
  { name: "Robot", params: { tunedBy: "frequency", frequency: 55 } },
  { name: "High glass", params: { ratio: 7.3, mix: 0.4 } },
];

export const coarse: readonly Preset<"coarse">[] = [
  { name: "Twelve bits", params: { bits: 12, rate: 26000 } },
  { name: "Eight bits", params: { bits: 8, rate: 16000 } },
  { name: "Toy", params: { bits: 5, rate: 9000 } },
  { name: "Four steps", params: { bits: 2, rate: 48000 } },
  { name: "Few moments", params: { bits: 16, rate: 2500 } },
  { name: "As coarse at every key", params: { bits: 8, rate: 4200, keyTracking: 1 } },
];

export const transient: readonly Preset<"transient">[] = [
  { name: "More of the hit", params: { attack: 9 } },
  { name: "Softer mallet", params: { attack: -9 } },
  { name: "More of the ring", params: { sustain: 6 } },
  { name: "Dry", params: { attack: 3, sustain: -9 } },
  { name: "Click only", params: { attack: 6, sustain: -20, length: 0.008 } },
  { name: "Swell", params: { attack: -20, sustain: 3, length: 0.15 } },
];
