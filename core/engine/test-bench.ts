import type { Audio } from "../audio";
import { compileKernels, startKernels } from "../dsp";
import {
  addSamples,
  type Instrument,
  newInstrument,
  newSample,
  newZone,
  placeZones,
  setParam,
  together,
  type Zone,
} from "../instrument";
import { compile } from "./compile";
import { Engine } from "./engine";

/** For tests that need nothing else of the document. */
export { newLoop } from "../instrument";

/** What the engine's tests share: small instruments around given sounds, and a way to play them. */
export const RATE = 48000;
/** Compiled once: every instance of it runs what the browser has made fast by then. */
export const KERNELS = compileKernels();
export const BENCH_SHA = (n: number): string => n.toString(16).padStart(64, "0");

export interface Bench {
  readonly engine: Engine;
  readonly instrument: Instrument;
  /** Renders so many frames, in blocks of a size. */
  readonly play: (frames: number, block?: number) => { left: Float32Array; right: Float32Array };
  readonly change: (instrument: Instrument) => void;
}

export const sine = (frames: number, frequency: number, level = 0.5, rate = RATE): Audio => ({
  rate,
  channels: [tone(frames, frequency / rate, level)],
});

function tone(frames: number, step: number, level: number): Float32Array {
  const out = new Float32Array(frames);
  for (let i = 0; i < frames; i++) out[i] = level * Math.sin(2 * Math.PI * step * i);
  return out;
}

/** An instrument whose zones play the given sounds; the filter is off, there is no room, the level 0 dB, velocity without effect. */
export function benchInstrument(sounds: readonly Audio[], zones: (Partial<Zone> & { sound?: number })[]): Instrument {
  const empty: Instrument = { ...newInstrument("bench", "Bench"), effects: [] };
  const samples = sounds.map((audio, i) =>
    newSample({
      sha: BENCH_SHA(i),
      name: `s${i}`,
      frames: audio.channels[0]?.length ?? 0,
      rate: audio.rate,
      channels: audio.channels.length,
    }),
  );
  const made = zones.map(({ sound = 0, ...zone }, i) =>
    newZone({ id: `z${i}`, sample: BENCH_SHA(sound), end: sounds[sound]?.channels[0]?.length ?? 0, ...zone }),
  );
  return together("", [
    addSamples(samples),
    placeZones("main", "main", made, true),
    setParam(empty, "layers/main/stages/filter/type", "off"),
    setParam(empty, "layers/main/strip/level", 0),
    setParam(empty, "layers/main/strip/velocity", 0),
    setParam(empty, "layers/main/amp/attack", 0),
  ]).apply(empty);
}

export function bench(
  sounds: readonly Audio[],
  zones: (Partial<Zone> & { sound?: number })[],
  adjust: (i: Instrument) => Instrument = (i) => i,
): Bench {
  const made = benchOf(adjust(benchInstrument(sounds, zones)));
  sounds.forEach((audio, i) => {
    made.engine.addSample(BENCH_SHA(i), audio);
  });
  return made;
}

/** An engine that plays an instrument without samples. */
export function benchOf(instrument: Instrument): Bench {
  const engine = new Engine(startKernels(KERNELS), { rate: RATE });
  engine.setPlan(compile(instrument));
  return {
    engine,
    instrument,
    change: (next) => engine.setPlan(compile(next)),
    play: (frames, block = 128) => {
      const left = new Float32Array(frames);
      const right = new Float32Array(frames);
      for (let at = 0; at < frames; at += block) engine.render(left, right, at, Math.min(frames, at + block));
      return { left, right };
    },
  };
}

/** Largest magnitude. */
export function peak(x: Float32Array): number {
  let most = 0;
  for (let i = 0; i < x.length; i++) {
    const v = x[i] as number;
    if (v > most) most = v;
    else if (-v > most) most = -v;
  }
  return most;
}
/** Root of the mean power. */
export function rms(x: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < x.length; i++) sum += (x[i] as number) * (x[i] as number);
  return Math.sqrt(sum / x.length);
}
/** Largest difference between neighbours from a frame on. */
export function steepest(x: Float32Array, from = 1): number {
  let most = 0;
  for (let i = from; i < x.length; i++) {
    const step = (x[i] as number) - (x[i - 1] as number);
    if (step > most) most = step;
    else if (-step > most) most = -step;
  }
  return most;
}
