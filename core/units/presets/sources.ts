import { db, type Preset, rowsBy } from "./preset";

export const oscillator: readonly Preset<"oscillator">[] = [
  { name: "Plain bell push", params: { wave: "sine" } },
  { name: "Dynamo hum", params: { wave: "triangle", secondWave: "saw", blend: 0.25, drift: 4, sub: -12 } },
  { name: "Wide wheel", params: { wave: "saw", unison: 7, detune: 18, spread: 0.9, drift: 3, startPhase: "random" } },
  { name: "Hollow tube", params: { wave: "pulse", width: 0.5, sub: -18 } },
  { name: "Thin wire", params: { wave: "pulse", width: 0.08, secondWave: "saw", blend: 0.2 } },
  { name: "Bent rim", params: { wave: "sine", phaseDistortion: 0.85 } },
  { name: "Dry bearing", params: { wave: "sine", feedback: 0.45, drift: 6 } },
  { name: "Crowd of bells", params: { wave: "sine", unison: 16, detune: 40, spread: 1, startPhase: "random" } },
  { name: "Slipping chain", params: { wave: "saw", hardSync: "on", syncPitch: 19 } },
  { name: "Open mouth", params: { wave: "sine", hardSync: "on", syncPitch: 31 } },
  { name: "Low gear", params: { wave: "saw", sub: 0, subWave: "pulse", subInterval: 12 } },
];

export const wavetable: readonly Preset<"wavetable">[] = [
  { name: "From the beginning", params: { position: 0 } },
  { name: "From the middle", params: { position: 0.5 } },
  { name: "From the end", params: { position: 1 } },
  { name: "In steps", params: { position: 0.25, interpolation: "stepped" } },
  { name: "Half a turn late", params: { phase: 180 } },
  { name: "Long cycles", params: { cycleLength: 2048 } },
];

export const partials: readonly Preset<"partials">[] = [
  {
    name: "Brass as of a horn",
    params: { phases: 0.2 },
    table: rowsBy(24, (n) => ({ ratio: n, level: db(n ** -0.8 * Math.exp(-n / 14)) })),
  },
  {
    name: "Stopped pipe",
    params: { phases: 1 },
    table: rowsBy(12, (n) => ({ ratio: 2 * n - 1, level: db((2 * n - 1) ** -1.4) })),
  },
  {
    name: "Brake drum",
    params: {},
    table: [1, 1.59, 2.14, 2.3, 2.65, 2.92, 3.16, 3.5, 3.6, 4.06].map((ratio, i) => ({
      ratio,
      level: -2.2 * i,
      decay: 1.6 / (1 + 0.45 * i),
    })),
  },
  {
    name: "Handlebar bell",
    params: {},
    table: [0.5, 1, 1.19, 1.5, 2, 2.52, 3.01, 4.1, 5.43, 6.8].map((ratio, i) => ({
      ratio,
      level: [-12, 0, -8, -14, -4, -12, -16, -18, -22, -26][i] ?? -30,
      decay: 6 / ratio,
    })),
  },
  {
    name: "Choir behind glass",
    params: { phases: 1, tilt: -2 },
    table: rowsBy(48, (n) => ({
      ratio: n,
      level: db(1 / n),
      pan: n === 1 ? 0 : (n % 2 ? 1 : -1) * 0.7,
      detune: n === 1 ? 0 : 7 * Math.sin(n * 2.4),
    })),
  },
  { name: "Bright as a saw", params: { phases: 1 }, table: rowsBy(128, (n) => ({ ratio: n, level: db(1 / n) })) },
  {
    name: "Drawn stops",
    params: { phases: 1 },
    table: [0.5, 1, 1.5, 2, 3, 4, 5, 6, 8].map((ratio, i) => ({
      ratio,
      level: [-6, 0, -9, -3, -6, -9, -18, -15, -12][i] ?? -20,
    })),
  },
  {
    name: "Plucked spoke",
    params: { damping: 0.6 },
    table: rowsBy(32, (n) => ({
      ratio: n * Math.sqrt(1 + 0.0004 * n * n),
      level: db(Math.abs(Math.sin(n * 0.45)) / n + 1e-4),
      decay: 3,
    })),
  },
];

export const grains: readonly Preset<"grains">[] = [
  {
    name: "Still cloud",
    params: { position: 0.3, positionJitter: 0.02, size: 0.15, density: 30, timingJitter: 0.6, width: 0.8 },
  },
  {
    name: "Gravel",
    params: { position: 0.5, positionJitter: 0.5, size: 0.03, density: 60, timingJitter: 1, width: 1 },
  },
  {
    name: "Slow brush",
    params: { position: 0.4, positionJitter: 0.1, size: 0.5, density: 8, timingJitter: 0.4, width: 0.7 },
  },
  {
    name: "Hum of one grain",
    params: { position: 0.2, positionJitter: 0, size: 0.02, density: 110, timingJitter: 0, width: 0 },
  },
  {
    name: "Swarm",
    params: { position: 0.5, positionJitter: 0.3, size: 0.12, density: 40, timingJitter: 0.9, detune: 7, width: 1 },
  },
  {
    name: "Loose chain",
    params: { position: 0.6, positionJitter: 0.2, size: 0.05, density: 9, timingJitter: 0.8, width: 0.6 },
  },
];

export const noise: readonly Preset<"noise">[] = [
  { name: "Leak in a tube", params: { colour: "white", width: 0.4 } },
  { name: "Wind in the spokes", params: { colour: "pink", width: 1 } },
  { name: "Tyres far away", params: { colour: "brown", width: 1 } },
  { name: "Spray", params: { colour: "blue", width: 1 } },
  { name: "Sparks", params: { colour: "dust", density: 30, width: 1 } },
  {
    name: "Hand pump",
    params: { colour: "pink", bursts: 1, rate: 1.5, burstLength: 0.5, levelJitter: 0.3, width: 0.3 },
  },
  {
    name: "Freewheel",
    params: { colour: "white", bursts: 1, rate: 14, burstLength: 0.03, levelJitter: 0.4, width: 0.2 },
  },
  {
    name: "Shaker on the beat",
    params: {
      colour: "blue",
      bursts: 1,
      sync: "1/16",
      burstLength: 0.09,
      levelJitter: 0.7,
      probability: 0.9,
      width: 0.5,
    },
  },
];

export const impulses: readonly Preset<"impulses">[] = [
  { name: "Even clicks", params: {} },
  { name: "Soft reed", params: { tilt: -9 } },
  { name: "Throat", params: { tilt: -6, jitter: 0.01 } },
  { name: "Bright edge", params: { tilt: 3 } },
  { name: "Rattle", params: { tilt: -2, jitter: 0.3 } },
  { name: "Rough breath", params: { tilt: -6, jitter: 0.06 } },
];

export const strike: readonly Preset<"strike">[] = [
  {
    name: "Wooden spoon",
    params: { tone: -30, toneLength: 0.03, pitchDrop: 0, noise: -6, noiseLength: 0.012, cutoff: 1800 },
  },
  {
    name: "Rubber mallet",
    params: { tone: -6, toneLength: 0.12, pitchDrop: 7, dropTime: 0.05, noise: -30, noiseLength: 0.02, cutoff: 700 },
  },
  { name: "Steel spanner", params: { tone: -60, noise: -3, noiseLength: 0.004, cutoff: 16000 } },
  {
    name: "Deep drum",
    params: {
      tone: -3,
      toneLength: 0.7,
      hold: 0.02,
      pitchDrop: 30,
      dropTime: 0.09,
      noise: -18,
      noiseLength: 0.03,
      cutoff: 4000,
    },
  },
  {
    name: "Snare of spokes",
    params: {
      tone: -12,
      toneLength: 0.15,
      pitchDrop: 12,
      noise: -3,
      noiseLength: 0.22,
      cutoff: 12000,
      noiseCurve: -0.4,
    },
  },
  { name: "Tick", params: { tone: -60, noise: -9, noiseLength: 0.015, cutoff: 9000 } },
  {
    name: "Falling tube",
    params: { tone: -6, toneLength: 1.2, toneCurve: 0.6, pitchDrop: 48, dropTime: 0.8, noise: -60 },
  },
];
