import { CONTROL, compileKernels, startKernels } from "../core/dsp";
import { compile, Engine } from "../core/engine";
import { BENCH_SHA, benchInstrument } from "../core/engine/test-bench";
import { type Instrument, newLayer, newUnit, newZone, setParam, type Unit } from "../core/instrument";
import { kindsAt, type UnitKind, unitSpec } from "../core/units";
import { type Figure, round } from "./figure";

const RATE = 48000;
const SECONDS = 2;
const RUNS = 9;
const KERNELS = compileKernels();

const fastest = (run: () => number): number => Math.min(...Array.from({ length: RUNS }, run));

/** Seconds that a unit takes for a second of noise. */
function loadOf(kind: UnitKind): number {
  const spec = unitSpec(kind);
  const values = new Map(
    spec.params.map((p) => [p.id, p.type === "choice" ? p.choices.findIndex((c) => c.id === p.default) : p.default]),
  );
  const block = spec.block?.(RATE, startKernels(KERNELS));
  if (!block) throw new RangeError(`${kind} can't stand on a bus`);
  // Every band does something.
  for (let n = 1; n <= 8; n++) if (values.has(`kind${n}`)) values.set(`kind${n}`, 3).set(`gain${n}`, 3);
  const impulse = Float32Array.from({ length: RATE * 3 }, (_, i) => Math.exp(-i / 20000) * Math.sin(i * i) * 0.1);
  block.load?.({ rate: RATE, channels: [impulse, impulse] }, true);
  block.tune((id) => values.get(id) as number, 120);
  const left = new Float32Array(RATE * SECONDS).map((_, i) => Math.sin(i * i * 1e-3) * 0.3);
  const right = left.slice();
  return fastest(() => {
    const began = performance.now();
    for (let at = 0; at < left.length; at += CONTROL) {
      block.unit.control?.();
      block.unit.process(left, right, at, at + CONTROL);
    }
    left.forEach((_, i) => {
      left[i] = Math.sin(i * i * 1e-3) * 0.3;
      right[i] = left[i] as number;
    });
    return (performance.now() - began) / 1000 / SECONDS;
  });
}

/** A dozen layers that sound, with so many units in each's inserts. */
function dozen(inserts: readonly Unit[]): Instrument {
  const audio = { rate: RATE, channels: [new Float32Array(RATE * 4)] };
  let doc = benchInstrument([audio], [{ keyLow: 60, keyHigh: 60, root: 60 }]);
  const layers = Array.from({ length: 12 }, (_, l) => {
    const layer = newLayer(`l${l}`, `Layer ${l}`);
    const zone = newZone({ id: `z${l}`, sample: BENCH_SHA(0), end: RATE * 4, keyLow: 60, keyHigh: 60, root: 60 });
    return { ...layer, inserts, groups: layer.groups.map((g) => ({ ...g, zones: [zone] })) };
  });
  doc = { ...doc, layers, effects: [] };
  return setParam(doc, "play/voices", 512).apply(doc);
}

/** Seconds for a second of a dozen layers' sound. */
function player(doc: Instrument, keys: boolean): () => number {
  const engine = new Engine(startKernels(KERNELS), { rate: RATE });
  const sound = Float32Array.from({ length: RATE * 4 }, (_, i) => Math.sin(i * 0.03) * 0.05);
  engine.addSample(BENCH_SHA(0), { rate: RATE, channels: [sound] });
  engine.setPlan(compile(doc));
  const left = new Float32Array(128);
  const right = new Float32Array(128);
  return () => {
    if (keys) engine.midi(0x90, 60, 100);
    const began = performance.now();
    for (let at = 0; at < RATE; at += 128) engine.render(left, right);
    const took = (performance.now() - began) / 1000;
    engine.reset();
    return took;
  };
}

/** Both in turn; the fastest of each. */
function paired(a: () => number, b: () => number): [number, number] {
  const times: [number[], number[]] = [[], []];
  for (let run = 0; run < 25; run++) {
    times[0].push(a());
    times[1].push(b());
  }
  return [Math.min(...times[0]), Math.min(...times[1])];
}

/** What each effect costs, and what costs nothing. */
export function units(): Figure[] {
  const table = kindsAt("main").map((kind): Figure => {
    const load = loadOf(kind);
    return {
      name: `load of one ${unitSpec(kind).label.toLowerCase()}`,
      value: round(load * 100),
      unit: "% of a core",
      hold: "≤ 5 %",
      pass: load <= 0.05,
    };
  });
  const off = (kind: UnitKind, i: number): Unit => {
    const unit = newUnit(kind, `u${i}`);
    return { ...unit, params: { ...unit.params, on: 0 } };
  };
  const eight = kindsAt("insert").slice(0, 8);
  const [bare, bypassed] = paired(player(dozen([]), true), player(dozen(eight.map(off)), true));
  const awake = eight.map((kind, i) => newUnit(kind, `u${i}`));
  const [silent, asleep] = paired(player(dozen([]), false), player(dozen(awake), false));
  const figure = (name: string, value: number, against: number, most: number, what: string): Figure => ({
    name,
    value: round(value * 100),
    unit: "% of a core",
    ratio: round(value / against, 3),
    against: `${what} (${round(against * 100)} %)`,
    hold: `ratio ≤ ${most}`,
    pass: value / against <= most,
  });
  return [
    ...table,
    figure("idle, 12 layers that sound, 8 units switched off in each", bypassed, bare, 1.02, "without units"),
    figure("idle, 12 silent layers, 8 units asleep in each", asleep, silent, 1.5, "without units"),
  ];
}
