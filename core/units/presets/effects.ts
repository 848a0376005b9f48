import type { Preset } from "./preset";

export const equaliser: readonly Preset<"equaliser">[] = [
  { name: "Without rumble", params: { kind1: "lowCut", frequency1: 60 } },
  {
    name: "Warm",
    params: { kind2: "lowShelf", frequency2: 180, gain2: 3, kind5: "highShelf", frequency5: 6000, gain5: -3 },
  },
  {
    name: "Clear",
    params: {
      kind1: "lowCut",
      frequency1: 90,
      kind3: "bell",
      frequency3: 350,
      gain3: -3,
      kind5: "highShelf",
      frequency5: 8000,
      gain5: 3,
    },
  },
  { name: "Less of the box", params: { kind3: "bell", frequency3: 450, gain3: -6, q3: 1.4 } },
  {
    name: "Telephone",
    params: {
      kind1: "lowCut",
      frequency1: 400,
      kind8: "highCut",
      frequency8: 3200,
      kind4: "bell",
      frequency4: 1500,
      gain4: 4,
    },
  },
  { name: "Air", params: { kind5: "highShelf", frequency5: 10000, gain5: 5 } },
];

export const compressor: readonly Preset<"compressor">[] = [
  { name: "Gently together", params: { threshold: -20, ratio: 2, attack: 0.03, release: 0.25, makeUp: 2 } },
  { name: "Firm", params: { threshold: -24, ratio: 4, attack: 0.01, release: 0.15, makeUp: 5 } },
  { name: "Lets the hit through", params: { threshold: -26, ratio: 5, attack: 0.05, release: 0.12, makeUp: 5 } },
  { name: "Flat", params: { threshold: -36, ratio: 12, attack: 0.002, release: 0.08, makeUp: 12 } },
  { name: "Breathing", params: { threshold: -30, ratio: 8, attack: 0.005, release: 0.4, makeUp: 8 } },
  {
    name: "Catches peaks",
    params: { threshold: -8, ratio: 20, attack: 0.0005, release: 0.06, lookAhead: 0.003, knee: 2 },
  },
];

export const limiter: readonly Preset<"limiter">[] = [
  { name: "Safe", params: {} },
  { name: "A little louder", params: { drive: 3 } },
  { name: "Loud", params: { drive: 8, release: 0.15 } },
  { name: "For streams", params: { drive: 2, ceiling: -2 } },
  { name: "Quick", params: { drive: 4, release: 0.02 } },
  { name: "Slow", params: { drive: 4, release: 0.6 } },
];

export const stereo: readonly Preset<"stereo">[] = [
  { name: "In the middle", params: { width: 0 } },
  { name: "Narrow", params: { width: 0.5 } },
  { name: "As it is", params: { width: 1 } },
  { name: "Wide", params: { width: 1.4 } },
  { name: "Widest", params: { width: 2 } },
  { name: "A step to the left", params: { balance: -0.3 } },
];

export const drive: readonly Preset<"drive">[] = [
  { name: "Warmth", params: { drive: 6, curve: "soft", tone: 9000 } },
  { name: "Overdriven", params: { drive: 20, curve: "soft", tone: 6000 } },
  { name: "Fuzz", params: { drive: 34, curve: "hard", tone: 4500 } },
  { name: "Cracked", params: { drive: 12, curve: "hard", tone: 14000 } },
  { name: "Folded", params: { drive: 14, curve: "fold", tone: 8000 } },
  { name: "Torn", params: { drive: 30, curve: "fold", tone: 12000 } },
];

export const crusher: readonly Preset<"crusher">[] = [
  { name: "Twelve bits", params: { bits: 12, rate: 26000 } },
  { name: "Eight bits", params: { bits: 8, rate: 16000 } },
  { name: "Toy", params: { bits: 5, rate: 9000 } },
  { name: "Doorbell", params: { bits: 4, rate: 5500 } },
  { name: "Gravel", params: { bits: 3, rate: 30000 } },
  { name: "Few moments", params: { bits: 16, rate: 2200 } },
];

export const chorus: readonly Preset<"chorus">[] = [
  { name: "Two of them", params: { rate: 0.5, depth: 0.002, delay: 0.015 } },
  { name: "Many of them", params: { rate: 0.8, depth: 0.006, delay: 0.02, feedback: 0.15 } },
  { name: "Slow and wide", params: { rate: 0.15, depth: 0.008, delay: 0.018, spread: 180 } },
  { name: "Seasick", params: { rate: 3, depth: 0.004, delay: 0.008 } },
  { name: "Thickened", params: { rate: 0.3, depth: 0.001, delay: 0.025 } },
  { name: "In the beat", params: { sync: "1/2", depth: 0.004 } },
];

export const flanger: readonly Preset<"flanger">[] = [
  { name: "Slow sweep", params: { rate: 0.1, depth: 0.003, delay: 0.003, feedback: 0.5 } },
  { name: "Jet", params: { rate: 0.07, depth: 0.004, delay: 0.004, feedback: 0.85 } },
  { name: "Hollow sweep", params: { rate: 0.2, depth: 0.003, delay: 0.003, feedback: -0.75 } },
  { name: "Metal", params: { rate: 0.02, depth: 0.0003, delay: 0.001, feedback: 0.9 } },
  { name: "Wobble", params: { rate: 4, depth: 0.001, delay: 0.003, feedback: 0.3 } },
  { name: "Over a bar", params: { sync: "1", depth: 0.004, feedback: 0.6 } },
];

export const phaser: readonly Preset<"phaser">[] = [
  { name: "Slow", params: { stages: "4", rate: 0.12, depth: 2 } },
  { name: "Deep", params: { stages: "8", rate: 0.2, depth: 3, feedback: 0.6 } },
  { name: "Six notches", params: { stages: "12", rate: 0.3, depth: 1.5, feedback: 0.4 } },
  { name: "Quick", params: { stages: "4", rate: 4, depth: 1 } },
  { name: "Still", params: { stages: "6", depth: 0, centre: 1400, feedback: 0.7 } },
  { name: "In the beat", params: { stages: "6", sync: "1/2", depth: 2 } },
];

export const tremolo: readonly Preset<"tremolo">[] = [
  { name: "Gentle", params: { depth: 0.3, rate: 5 } },
  { name: "Deep", params: { depth: 0.9, rate: 6 } },
  { name: "Auto-pan", params: { depth: 0.8, rate: 1.2, spread: 180 } },
  { name: "Chopped in sixteenths", params: { depth: 1, sync: "1/16", shape: "square" } },
  { name: "Pumping", params: { depth: 0.9, sync: "1/4", shape: "saw" } },
  { name: "Slow swell", params: { depth: 0.7, sync: "2", shape: "triangle" } },
];

export const delay: readonly Preset<"delay">[] = [
  { name: "Steps back", params: { mix: 0.5, feedback: 0.5, ducking: 24, duckRelease: 0.5 } },
  { name: "Slap", params: { time: 0.11, feedback: 0.1 } },
  { name: "Eighths", params: { sync: "1/8", feedback: 0.4 } },
  { name: "Dotted", params: { sync: "1/8.", feedback: 0.45, mode: "pingPong" } },
  { name: "Dark and long", params: { time: 0.55, feedback: 0.7, highCut: 2200 } },
  { name: "Worn tape", params: { time: 0.38, feedback: 0.6, lowCut: 200, highCut: 3500, drive: 9 } },
  { name: "Almost for ever", params: { sync: "1/4", feedback: 0.93, highCut: 6000 } },
  { name: "Doubled", params: { time: 0.028, feedback: 0 } },
];

export const hall: readonly Preset<"hall">[] = [
  { name: "Workshop", params: { size: 0.3, decay: 0.8, preDelay: 0.004, earlyReflections: 0.7, highCrossover: 5000 } },
  { name: "Stairwell", params: { size: 0.5, decay: 2.6, preDelay: 0.01, highDecay: 0.8, earlyReflections: 0.6 } },
  { name: "Under the bridge", params: { size: 0.9, decay: 5, preDelay: 0.04, lowDecay: 1.6, highDecay: 0.3 } },
  {
    name: "Bright plate",
    params: { size: 0.4, decay: 2, preDelay: 0, earlyReflections: 0, highDecay: 1.2, diffusion: 1 },
  },
  { name: "Large and dark", params: { size: 1, decay: 8, highDecay: 0.2, highCrossover: 2500, lowCut: 80 } },
  { name: "Cloud", params: { size: 1, decay: 18, earlyReflections: 0, modulation: 0.8, diffusion: 1, width: 1.4 } },
];

export const reverb: readonly Preset<"reverb">[] = [
  { name: "Small room", params: { size: 0.25, decay: 0.4, damping: 7000 } },
  { name: "Room", params: { size: 0.5, decay: 0.9, damping: 6000 } },
  { name: "Long", params: { size: 0.8, decay: 3.5, damping: 5000 } },
  { name: "Tin shed", params: { size: 0.35, decay: 1.4, damping: 16000 } },
  { name: "Cellar", params: { size: 0.6, decay: 2, damping: 1500 } },
  { name: "Endless", params: { size: 1, decay: 16, damping: 4000 } },
];

export const convolution: readonly Preset<"convolution">[] = [
  { name: "Swells backwards", params: { mix: 0.4, direction: "backward", fadeIn: 0.2 } },
  { name: "Twice as large", params: { mix: 0.3, stretch: 2, fadeOut: 0.3 } },
  { name: "As it was recorded", params: {} },
  { name: "A little later", params: { preDelay: 0.03 } },
  { name: "Without the first sound", params: { start: 0.02 } },
  { name: "The first half second", params: { length: 0.5, fadeOut: 0.5 } },
  { name: "Short", params: { length: 0.15, fadeOut: 0.8 } },
  { name: "Its tail", params: { start: 0.12, preDelay: 0.02 } },
];

export const gate: readonly Preset<"gate">[] = [
  { name: "Rests silent", params: { threshold: -50, release: 0.2 } },
  { name: "Cut room", params: { threshold: -30, hold: 0.15, release: 0.03 } },
  { name: "Only what is hit", params: { threshold: -20, hold: 0.02, release: 0.05 } },
  { name: "Softer between", params: { threshold: -36, range: -12, release: 0.3 } },
  { name: "Slow to open", params: { threshold: -40, attack: 0.12, hold: 0.2, release: 0.4 } },
  { name: "Chopped", params: { threshold: -24, hysteresis: 2, attack: 0.0005, hold: 0, release: 0.01 } },
];

export const rotary: readonly Preset<"rotary">[] = [
  { name: "Slow", params: { speed: "slow" } },
  { name: "Fast", params: { speed: "fast" } },
  { name: "At the grille", params: { speed: "fast", micDistance: 0, spread: 180 } },
  { name: "Across the shop", params: { speed: "slow", micDistance: 0.9, spread: 60 } },
  { name: "Heavy", params: { speed: "fast", fastRate: 5.2, rampTime: 2, crossover: 500 } },
  { name: "Wobbling wheel", params: { speed: "slow", slowRate: 1.7, micDistance: 0.2, rampTime: 0.2 } },
];
