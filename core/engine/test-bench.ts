import type { Audio } from "../audio";
import { compileKernels, startKernels } from "../dsp";
import {
  addSamples,
  type Instrument,
  newInstrument,
  newZone,
  placeZones,
  setParam,
  together,
  type Zone,
} from "../instrument";
import { Engine } from "./engine";
import { compile } from "./plan";

/** What the engine's tests share: small instruments around given sounds, and a way to play them. */
export const RATE = 48000;
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
  channels: [Float32Array.from({ length: frames }, (_, i) => level * Math.sin((2 * Math.PI * frequency * i) / rate))],
});

/** An instrument whose zones play the given sounds; the filter is off, the room dry, the level 0 dB, velocity without effect. */
export function benchInstrument(sounds: readonly Audio[], zones: (Partial<Zone> & { sound?: number })[]): Instrument {
  const empty = newInstrument("bench", "Bench");
  const samples = sounds.map((audio, i) => ({
    sha: BENCH_SHA(i),
    name: `s${i}`,
    frames: audio.channels[0]?.length ?? 0,
    rate: audio.rate,
    channels: audio.channels.length,
    pitch: null,
    confidence: 0,
    peak: 0,
    loudness: 0,
    from: null,
  }));
  const made = zones.map(({ sound = 0, ...zone }, i) =>
    newZone({ id: `z${i}`, sample: BENCH_SHA(sound), end: sounds[sound]?.channels[0]?.length ?? 0, ...zone }),
  );
  return together("", [
    addSamples(samples),
    placeZones("main", "main", made, true),
    setParam(empty, "layers/main/stages/filter/mode", "off"),
    setParam(empty, "layers/main/strip/level", 0),
    setParam(empty, "layers/main/strip/velocity", 0),
    setParam(empty, "layers/main/amp/attack", 0),
    setParam(empty, "effects/reverb/mix", 0),
  ]).apply(empty);
}

export function bench(
  sounds: readonly Audio[],
  zones: (Partial<Zone> & { sound?: number })[],
  adjust: (i: Instrument) => Instrument = (i) => i,
): Bench {
  const instrument = adjust(benchInstrument(sounds, zones));
  const engine = new Engine(startKernels(compileKernels()), { rate: RATE });
  sounds.forEach((audio, i) => {
    engine.addSample(BENCH_SHA(i), audio);
  });
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
export const peak = (x: Float32Array): number => x.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
/** Root of the mean power. */
export const rms = (x: Float32Array): number => Math.sqrt(x.reduce((sum, v) => sum + v * v, 0) / x.length);
/** Largest difference between neighbours from a frame on. */
export function steepest(x: Float32Array, from = 1): number {
  let most = 0;
  for (let i = from; i < x.length; i++) most = Math.max(most, Math.abs((x[i] as number) - (x[i - 1] as number)));
  return most;
}
