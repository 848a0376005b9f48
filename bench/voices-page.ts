import { compileKernels, startKernels } from "../core/dsp";
import { compile, Engine } from "../core/engine";
import { BENCH_SHA, benchInstrument } from "../core/engine/test-bench";
import { addRoute, setParam } from "../core/instrument";

const RATE = 48000;
const SECONDS = 2;
const RUNS = 40;
/** Compiled once, as in use: what is measured is the code that the browser has made fast, as its own nodes are. */
const KERNELS = compileKernels();

/** Two channels of a tone with noise, at 44.1 kHz, long enough for any rate used here. */
function sample(): Float32Array<ArrayBuffer>[] {
  return [0, 1].map((c) =>
    Float32Array.from(
      { length: 44100 * 12 },
      (_, i) => 0.02 * Math.sin(i * (0.03 + 0.001 * c)) + 0.01 * Math.sin(i * i * 1e-4),
    ),
  );
}

const rateOf = (voice: number): number => 0.75 + (voice % 32) / 64;

/** Seconds that the browser's own nodes take: sample → filter with moving cutoff → envelope → pan. */
async function native(voices: number, channels: Float32Array<ArrayBuffer>[]): Promise<number> {
  const context = new OfflineAudioContext(2, RATE * SECONDS, RATE);
  const buffer = context.createBuffer(2, channels[0]?.length ?? 0, 44100);
  channels.forEach((c, i) => {
    buffer.copyToChannel(c, i);
  });
  // The cutoff moves at control rate, as ours does: one curve for all.
  const curve = Float32Array.from(
    { length: (SECONDS * RATE) / 32 },
    (_, i) => 2000 + 1500 * Math.sin((2 * Math.PI * 5 * i * 32) / RATE),
  );
  for (let v = 0; v < voices; v++) {
    const source = new AudioBufferSourceNode(context, { buffer, playbackRate: rateOf(v) });
    const filter = new BiquadFilterNode(context, { type: "lowpass", Q: 2 });
    filter.frequency.automationRate = "k-rate";
    filter.frequency.setValueCurveAtTime(curve, 0, SECONDS - 0.01);
    const gain = new GainNode(context, { gain: 0 });
    gain.gain.setValueAtTime(0, 0);
    gain.gain.linearRampToValueAtTime(0.1, 0.01);
    gain.gain.setTargetAtTime(0.05, 0.01, 0.5);
    const pan = new StereoPannerNode(context, { pan: ((v % 9) - 4) / 5 });
    source.connect(filter).connect(gain).connect(pan).connect(context.destination);
    source.start();
  }
  const began = performance.now();
  await context.startRendering();
  return (performance.now() - began) / 1000;
}

/** Seconds that our engine takes for the same, with band-limited interpolation. */
function ours(voices: number, channels: Float32Array<ArrayBuffer>[]): number {
  const audio = { rate: 44100, channels };
  const frames = channels[0]?.length ?? 0;
  let instrument = benchInstrument(
    [audio],
    Array.from({ length: voices }, (_, v) => ({
      keyLow: 60,
      keyHigh: 60,
      root: 60,
      end: frames,
      tune: 1200 * Math.log2(rateOf(v)),
      pan: ((v % 9) - 4) / 5,
    })),
  );
  const set = (address: string, value: number | string) => {
    instrument = setParam(instrument, address, value).apply(instrument);
  };
  set("play/voices", 512);
  // One movement for all voices, as the other chain has one curve for all.
  set("lfos/lfo1/retrigger", "free");
  set("layers/main/stages/filter/type", "low");
  set("layers/main/stages/filter/cutoff", 2000);
  set("layers/main/stages/filter/resonance", 0.5);
  set("layers/main/strip/level", -30);
  set("layers/main/amp/attack", 0.01);
  set("layers/main/amp/sustain", 0.5);
  instrument = addRoute({
    id: "r",
    source: "lfos/lfo1",
    target: "layers/main/stages/filter/cutoff",
    amount: 1,
    on: true,
  }).apply(instrument);
  // Voices only: the room has its own cost, and the other chain has none.
  instrument = { ...instrument, effects: [] };
  const engine = new Engine(startKernels(KERNELS), { rate: RATE });
  engine.addSample(BENCH_SHA(0), audio);
  engine.setPlan(compile(instrument));
  engine.midi(0x90, 60, 127);
  const left = new Float32Array(128);
  const right = new Float32Array(128);
  const began = performance.now();
  for (let at = 0; at < RATE * SECONDS; at += 128) engine.render(left, right);
  const took = (performance.now() - began) / 1000;
  if (engine.status().voices !== voices) throw new Error(`${engine.status().voices} voices sounded, not ${voices}`);
  return took;
}

/** Both, alternating; the fastest run of each, for whatever else the machine does only makes them slower. In voices that one core renders in real time. */
async function measure(voices: number): Promise<{ ours: number; native: number }> {
  const channels = sample();
  const times = { ours: [] as number[], native: [] as number[] };
  for (let run = 0; run < 3; run++) ours(voices, channels);
  for (let run = 0; run < RUNS; run++) {
    times.native.push(await native(voices, channels));
    times.ours.push(ours(voices, channels));
  }
  const perCore = (runs: number[]) => (voices * SECONDS) / Math.min(...runs);
  return { ours: perCore(times.ours), native: perCore(times.native) };
}

(globalThis as unknown as { measureVoices: typeof measure }).measureVoices = measure;
