import { compileKernels, startKernels } from "../core/dsp";
import { compile, Engine } from "../core/engine";
import { BENCH_SHA, benchInstrument, RATE } from "../core/engine/test-bench";
import { readWav, writeWav } from "../core/formats";
import { type Figure, round } from "./figure";

const COUNT = 200;
const SECONDS = 5;

/** An instrument of 200 samples of 5 s in stereo: time and memory to open it, against decoding its files alone; time to the first note. */
export function load(): Figure[] {
  const frames = 44100 * SECONDS;
  const wave = Float32Array.from({ length: frames }, (_, i) => Math.round(9000 * Math.sin(i * 0.02)) / 32768);
  const file = writeWav({ rate: 44100, channels: [wave, wave] }, 16);
  const sound = { rate: 44100, channels: [new Float32Array(frames), new Float32Array(frames)] };
  const sounds = Array.from({ length: COUNT }, () => sound);
  const instrument = benchInstrument(
    sounds,
    sounds.map((_, i) => ({ sound: i, keyLow: i % 128, keyHigh: i % 128, root: i % 128 })),
  );
  const began = performance.now();
  for (let i = 0; i < COUNT; i++) readWav(file);
  const decoding = performance.now() - began;
  const engine = new Engine(startKernels(compileKernels()), { rate: RATE });
  const empty = engine.memoryUsed;
  const opened = performance.now();
  engine.setPlan(compile(instrument));
  let firstNote = 0;
  const left = new Float32Array(128);
  const right = new Float32Array(128);
  for (let i = 0; i < COUNT; i++) {
    engine.addSample(BENCH_SHA(i), readWav(file).audio);
    if (i > 0) continue;
    engine.midi(0x90, 0, 100);
    engine.render(left, right);
    engine.render(left, right);
    firstNote = performance.now() - opened;
    if (!left.some((v) => v !== 0)) throw new Error("the first note stayed silent");
  }
  const took = performance.now() - opened;
  const memory = (engine.memoryUsed - empty) / (COUNT * frames * 2 * 2);
  return [
    {
      name: `load, ${COUNT} samples × ${SECONDS} s stereo`,
      value: round(took, 0),
      unit: "ms",
      ratio: round(took / decoding),
      against: `decoding alone (${round(decoding, 0)} ms)`,
      hold: "report",
      pass: true,
    },
    {
      name: "load, memory against the 16-bit samples themselves",
      value: round(memory, 3),
      unit: "ratio",
      hold: "≤ 1.05",
      pass: memory <= 1.05,
    },
    {
      name: "load, time to the first note",
      value: round(firstNote, 1),
      unit: "ms",
      ratio: round(firstNote / took, 3),
      against: "opening the whole",
      hold: "ratio ≤ 0.1",
      pass: firstNote / took <= 0.1,
    },
  ];
}
