import { compileKernels, startKernels } from "../core/dsp";
import { compile, Engine } from "../core/engine";
import { BENCH_SHA, benchInstrument } from "../core/engine/test-bench";
import {
  addUnit,
  type Instrument,
  newUnit,
  setParam,
  setSource,
  setUnitSample,
  together,
  withUnits,
} from "../core/instrument";
import { kindsAt, type UnitKind, unitSpec } from "../core/units";
import { type Figure, round } from "./figure";

const RATE = 48000;
const VOICES = 64;
const RUNS = 7;
const KERNELS = compileKernels();
const STAGES = "layers/main/stages" as const;
const TONE = {
  rate: RATE,
  channels: [0, 1].map((c) =>
    Float32Array.from({ length: RATE * 8 }, (_, i) => 0.02 * Math.sin(i * (0.03 + c * 0.001))),
  ),
};

/** 64 voices of one note: zones beside each other. */
function many(change: (i: Instrument) => Instrument): Instrument {
  const zones = Array.from({ length: VOICES }, (_, v) => ({ keyLow: 60, keyHigh: 60, root: 60, tune: v * 3 }));
  const plain = withUnits(benchInstrument([TONE], zones), STAGES, () => []);
  const loud = together("", [
    setParam(plain, "play/voices", 512),
    setParam(plain, "layers/main/amp/sustain", 1),
    setParam(plain, "play/level", -30),
  ]).apply(plain);
  return { ...change(loud), effects: [] };
}

/** Seconds that a second of it takes, at the fastest. */
function seconds(instrument: Instrument): number {
  const engine = new Engine(startKernels(KERNELS), { rate: RATE });
  engine.setPlan(compile(instrument));
  engine.addSample(BENCH_SHA(0), TONE);
  engine.midi(0x90, 60, 100);
  const [left, right] = [new Float32Array(128), new Float32Array(128)];
  const second = (): number => {
    const began = performance.now();
    for (let at = 0; at < RATE / 2; at += 128) engine.render(left, right);
    return (performance.now() - began) / 500;
  };
  second();
  return Math.min(...Array.from({ length: RUNS }, second));
}

const withSource =
  (kind: UnitKind) =>
  (i: Instrument): Instrument => {
    const made = setSource("main", kind).apply(i);
    const [sample] = i.samples;
    if (kind === "strike")
      return together("", [
        setParam(made, "layers/main/source/toneLength", 8),
        setParam(made, "layers/main/source/noiseLength", 4),
      ]).apply(made);
    return unitSpec(kind).cell?.sampled && sample ? setUnitSample("layers/main/source", sample).apply(made) : made;
  };

/** Voices for one core: of each source alone, of samples through each stage, and through eight. */
export function cells(): Figure[] {
  const samples = seconds(many((i) => i));
  const figure = (name: string, took: number, least: number): Figure => ({
    name,
    value: Math.round(VOICES / took),
    unit: "voices for one core",
    ratio: round(samples / took),
    against: `samples alone (${Math.round(VOICES / samples)} voices)`,
    hold: `≥ ${least} voices`,
    pass: VOICES / took >= least,
  });
  return [
    ...kindsAt("source").map((kind) => figure(`source ${kind}`, seconds(many(withSource(kind))), 200)),
    ...kindsAt("stage").map((kind) =>
      figure(`samples through ${kind}`, seconds(many((i) => addUnit(STAGES, newUnit(kind, "s")).apply(i))), 200),
    ),
    figure(
      "samples through eight filters",
      seconds(
        many((i) =>
          together(
            "",
            Array.from({ length: 8 }, (_, s) => addUnit(STAGES, newUnit("filter", `s${s}`))),
          ).apply(i),
        ),
      ),
      64,
    ),
  ];
}
