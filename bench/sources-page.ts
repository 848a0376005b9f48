import { compileKernels, startKernels } from "../core/dsp";
import { compile, Engine } from "../core/engine";
import { benchInstrument } from "../core/engine/test-bench";
import {
  addLayer,
  addUnit,
  changeUnit,
  type Instrument,
  newLayer,
  newUnit,
  setParam,
  setSource,
  setTable,
  together,
} from "../core/instrument";

const RATE = 48000;
const SECONDS = 1;
/** Runs of each at the least, and seconds after which there are enough. */
const RUNS = 3;
const ENOUGH = 6;
const KERNELS = compileKernels();
const SOURCE = "layers/main/source";
const BODY = "layers/main/stages/body";

/** A sound made by us and by the browser's own nodes. */
interface Case {
  readonly voices: number;
  /** The layer's source and stages, from an empty instrument. */
  readonly ours: (doc: Instrument) => Instrument;
  /** Starts one voice in a context, for a frequency. */
  readonly native: (context: OfflineAudioContext, hertz: number, out: AudioNode) => void;
}

const set = (doc: Instrument, values: Readonly<Record<string, number | string>>): Instrument =>
  together(
    "",
    Object.entries(values).map(([address, value]) => setParam(doc, address, value)),
  ).apply(doc);

const partials = (count: number): Case => ({
  voices: 16,
  ours: (doc) =>
    setTable(
      SOURCE,
      Array.from({ length: count }, (_, i) => ({ ratio: 1 + i * 0.31, level: -i / 8 })),
      "",
    ).apply(setSource("main", "partials").apply(doc)),
  native: (context, hertz, out) => {
    for (let i = 0; i < count; i++) {
      const gain = new GainNode(context, { gain: 0.01 * 10 ** (-i / 160) });
      const one = new OscillatorNode(context, { frequency: hertz * (1 + i * 0.31) });
      one.connect(gain).connect(out);
      one.start();
    }
  },
});

const modes = (count: number): Case => ({
  voices: 16,
  ours: (doc) => {
    const made = addUnit("layers/main/stages", newUnit("resonator", "body")).apply(
      setSource("main", "noise").apply(doc),
    );
    const rows = Array.from({ length: count }, (_, i) => ({ ratio: 1 + i * 0.31, level: -i / 8, decay: 2 }));
    return set(setTable(BODY, rows, "").apply(made), { [`${SOURCE}/colour`]: "white" });
  },
  native: (context, hertz, out) => {
    const buffer = context.createBuffer(1, RATE, RATE);
    buffer.copyToChannel(
      Float32Array.from({ length: RATE }, () => Math.random() * 0.2 - 0.1),
      0,
    );
    const noise = new AudioBufferSourceNode(context, { buffer, loop: true });
    for (let i = 0; i < count; i++) {
      const frequency = hertz * (1 + i * 0.31);
      const mode = new BiquadFilterNode(context, { type: "bandpass", frequency, Q: Math.PI * frequency * 0.29 });
      noise
        .connect(mode)
        .connect(new GainNode(context, { gain: 10 ** (-i / 160) }))
        .connect(out);
    }
    noise.start();
  },
});

const CASES: Readonly<Record<string, Case>> = {
  "oscillator, 7 in unison": {
    voices: 32,
    ours: (doc) =>
      set(setSource("main", "oscillator").apply(doc), { [`${SOURCE}/unison`]: 7, [`${SOURCE}/detune`]: 20 }),
    native: (context, hertz, out) => {
      for (let i = 0; i < 7; i++) {
        const one = new OscillatorNode(context, { type: "sawtooth", frequency: hertz, detune: (i - 3) * 7 });
        one
          .connect(new GainNode(context, { gain: 0.05 }))
          .connect(new StereoPannerNode(context, { pan: (i - 3) / 4 }))
          .connect(out);
        one.start();
      }
    },
  },
  "two oscillators, one moves the other's phase": {
    voices: 32,
    ours: (doc) => {
      const both = addLayer({ ...newLayer("mover", "Mover") }).apply(setSource("main", "oscillator").apply(doc));
      const made = changeUnit(setSource("mover", "oscillator").apply(both), SOURCE, (u) => ({ ...u, from: "mover" }));
      return set(made, {
        [`${SOURCE}/wave`]: "sine",
        "layers/mover/source/wave": "sine",
        "layers/mover/strip/mute": 1,
        "layers/mover/amp/sustain": 1,
        "layers/mover/stages/filter/on": 0,
      });
    },
    native: (context, hertz, out) => {
      const mover = new OscillatorNode(context, { frequency: hertz });
      const moved = new OscillatorNode(context, { frequency: hertz });
      mover.connect(new GainNode(context, { gain: hertz })).connect(moved.frequency);
      moved.connect(new GainNode(context, { gain: 0.05 })).connect(out);
      mover.start();
      moved.start();
    },
  },
  "64 partials": partials(64),
  "256 partials": partials(256),
  "32 modes": modes(32),
  "128 modes": modes(128),
};

const keysOf = (voices: number): number[] => Array.from({ length: voices }, (_, v) => 36 + v);

/** The instrument of a case: nothing in it but what is measured. */
function instrumentOf({ ours }: Case): Instrument {
  const made = ours(benchInstrument([], []));
  const loud = set(made, { "play/voices": 512, "layers/main/amp/sustain": 1, "play/level": -40 });
  const stages = loud.layers.map((layer) => ({ ...layer, stages: layer.stages.filter((u) => u.kind !== "filter") }));
  return { ...loud, layers: stages, effects: [] };
}

function ours(sound: Case): number {
  const engine = new Engine(startKernels(KERNELS), { rate: RATE });
  engine.setPlan(compile(instrumentOf(sound)));
  for (const key of keysOf(sound.voices)) engine.midi(0x90, key, 100);
  const [left, right] = [new Float32Array(128), new Float32Array(128)];
  const began = performance.now();
  for (let at = 0; at < RATE * SECONDS; at += 128) engine.render(left, right);
  const took = (performance.now() - began) / 1000;
  if (engine.status().voices < sound.voices) throw new Error(`${engine.status().voices} voices sounded`);
  if (!left.some((x) => x !== 0)) throw new Error("nothing sounded");
  return took;
}

async function native(sound: Case): Promise<number> {
  const context = new OfflineAudioContext(2, RATE * SECONDS, RATE);
  for (const key of keysOf(sound.voices)) sound.native(context, 440 * 2 ** ((key - 69) / 12), context.destination);
  const began = performance.now();
  await context.startRendering();
  return (performance.now() - began) / 1000;
}

/** Both, alternating; the fastest run of each. In voices that one core renders in real time. */
async function measure(name: string): Promise<{ ours: number; native: number }> {
  const sound = CASES[name];
  if (!sound) throw new RangeError(`there is no ${name}`);
  const times = { ours: [] as number[], native: [] as number[] };
  for (let run = 0; run < 2; run++) ours(sound);
  const began = performance.now();
  for (let run = 0; run < RUNS || performance.now() - began < ENOUGH * 1000; run++) {
    times.native.push(await native(sound));
    times.ours.push(ours(sound));
  }
  const perCore = (runs: number[]) => (sound.voices * SECONDS) / Math.min(...runs);
  return { ours: perCore(times.ours), native: perCore(times.native) };
}

Object.assign(globalThis, { sourceCases: Object.keys(CASES), measureSource: measure });
