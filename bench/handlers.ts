import { bakeCycles, bakeWaves, compileKernels, startKernels } from "../core/dsp";
import { applyDelta, compile, Engine, packSample, planDelta } from "../core/engine";
import { BENCH_SHA, benchInstrument } from "../core/engine/test-bench";
import { addRoute, changeZones, type Instrument, newLayer, newUnit } from "../core/instrument";
import { type Figure, round } from "./figure";

const RATE = 48000;
const ZONES = 20000;
const ROUTES = 1000;
const RUNS = 31;
/** A block, in milliseconds: what a handler takes is missing to the sound of the block in which it runs. */
const BLOCK = (128 / RATE) * 1000;
/** A cycle of no power of two, as a recorded tone has them; 256 of them. */
const CYCLE = 1789;
const CYCLES = 256;

/** An instrument as large as a document may be: zones, routes, and a wavetable of odd cycles. */
function largest(): Instrument {
  const sound = { rate: RATE, channels: [Float32Array.from({ length: 4 * RATE }, (_, i) => 0.2 * Math.sin(i * 0.03))] };
  const table = { rate: RATE, channels: [new Float32Array(CYCLE * CYCLES).map((_, i) => Math.sin(i * 0.0035))] };
  const zones = Array.from({ length: ZONES }, (_, i) => ({
    id: `z${i}`,
    keyLow: i % 128,
    keyHigh: i % 128,
    root: i % 128,
    velLow: 1 + (Math.floor(i / 128) % 127),
    velHigh: 1 + (Math.floor(i / 128) % 127),
    repeat: 1 + Math.floor(i / (128 * 127)),
  }));
  const bare = benchInstrument([sound, table], zones);
  const wave = newUnit("wavetable", "source");
  const layer = {
    ...newLayer("waves", "Waves"),
    source: { ...wave, sample: BENCH_SHA(1), params: { ...wave.params, cycle: CYCLE } },
  };
  let doc: Instrument = { ...bare, layers: [...bare.layers, layer as Instrument["layers"][number]] };
  const targets = ["layers/main/strip/level", "layers/main/strip/pan", "play/level", "effects/reverb/mix"];
  for (let n = 0; n < ROUTES; n++)
    doc = addRoute({
      id: `r${n}`,
      source: ["velocity", "wheel", "key", "lfos/lfo1"][n % 4] as string,
      target: targets[n % targets.length] as string,
      amount: 0.001,
    }).apply(doc);
  return doc;
}

/** What takes longest in the audio thread between two blocks, message by message, with the largest material that there can be. */
export function handlers(): Figure[] {
  const doc = largest();
  const plan = compile(doc);
  const engine = new Engine(startKernels(compileKernels()), { rate: RATE, arriving: true });
  const left = new Float32Array(128);
  const right = new Float32Array(128);
  let held = applyDelta(structuredClone(planDelta(plan, null)), null);
  engine.setPlan(held);
  const render = () => engine.render(left, right);
  const found: { readonly name: string; readonly ms: number }[] = [];
  const take = (name: string, prepare: (n: number) => () => void): void => {
    const times: number[] = [];
    for (let n = 0; n < RUNS; n++) {
      const run = prepare(n);
      const began = performance.now();
      run();
      times.push(performance.now() - began);
      render();
    }
    // The middle of the later runs: the first are those in which code is made fast.
    const late = times.slice(10).sort((a, b) => a - b);
    found.push({ name, ms: late[late.length >> 1] as number });
  };
  let sent = doc;
  let last = plan;
  const edited = (name: string, edit: (doc: Instrument, n: number) => Instrument): void =>
    take(name, (n) => {
      sent = edit(sent, n);
      const next = compile(sent);
      const delta = structuredClone(planDelta(next, last));
      last = next;
      return () => {
        held = applyDelta(delta, held);
        engine.setPlan(held);
      };
    });
  edited("plan (a zone is moved)", (d, n) =>
    changeZones(new Set(["z77"]), "Move", (z) => ({ ...z, root: 60 + (n % 3) })).apply(d),
  );
  edited("plan (a route comes)", (d, n) =>
    n < RUNS ? { ...d, routes: d.routes.map((r, i) => (i === n ? { ...r, on: !r.on } : r)) } : d,
  );
  edited("plan (a unit comes or goes)", (d, n) => ({
    ...d,
    effects: n % 2 ? d.effects.slice(0, 1) : [...d.effects.slice(0, 1), newUnit("delay", "d")],
  }));
  take("base", () => () => engine.setBase(last.base));
  const packed = packSample({ rate: RATE, channels: [new Float32Array(60 * RATE).fill(0.1)] }, "asRecorded");
  if (!packed) throw new Error("there is nothing in it");
  take("sample (a minute)", (n) => () => {
    engine.takeSample(BENCH_SHA(900 + n), packed);
    engine.arrive(65536);
  });
  for (const [n, sha] of [0, 1].map((n) => [n, BENCH_SHA(n)] as const)) {
    const own = packSample(
      { rate: RATE, channels: [new Float32Array(n === 0 ? 4 * RATE : CYCLE * CYCLES).fill(0.1)] },
      "asRecorded",
    );
    if (own) engine.takeSample(sha, own);
  }
  while (engine.hasArrivals) engine.arrive(1e6);
  take("asking for cycles", () => () => void engine.cyclesWanted());
  const ready = bakeCycles(CYCLE * CYCLES, CYCLE, (f) => Math.sin(f * 0.0035));
  take("cycles (256 of an odd length)", () => () => {
    engine.takeCycles(BENCH_SHA(1), ready);
    engine.arrive(65536);
  });
  const waves = bakeWaves();
  const dry = compile({ ...benchInstrument([], []), layers: [newLayer("main", "Main")] });
  const withWave = compile({
    ...benchInstrument([], []),
    layers: [{ ...newLayer("main", "Main"), source: newUnit("oscillator", "source") }],
  } as Instrument);
  take("plan (the first oscillator)", () => {
    const fresh = new Engine(startKernels(compileKernels()), { rate: RATE, arriving: true });
    fresh.setPlan(dry);
    fresh.render(left, right);
    return () => fresh.setPlan(withWave);
  });
  take("waves", () => {
    const fresh = new Engine(startKernels(compileKernels()), { rate: RATE, arriving: true });
    fresh.setPlan(withWave);
    fresh.render(left, right);
    return () => {
      fresh.takeWaves(waves);
      fresh.arrive(65536);
    };
  });
  take("midi (a key, and let go)", (n) => () => engine.midi(n % 2 ? 0x80 : 0x90, 60, 100));
  take("tempo", (n) => () => engine.setTempo(100 + n));
  take("solo", (n) => () => engine.solo(n % 2 ? ["main"] : []));
  take("tap", (n) => () => engine.setTap(n % 2 ? "layers/main" : null));
  take("watch", (n) => () => engine.watch(n % 2 === 0));
  take(
    "probe",
    (n) => () => engine.setProbe(n % 2 ? null : ({ at: "layers/main", kind: "tone", hertz: 440, level: -20 } as never)),
  );
  found.sort((a, b) => b.ms - a.ms);
  const worst = found[0] as (typeof found)[0];
  return [
    {
      name: `handlers, the slowest message with ${ZONES} zones, ${ROUTES} routes and ${CYCLES} odd cycles`,
      value: round(worst.ms),
      unit: "ms",
      ratio: round(worst.ms / BLOCK),
      against: `a block of 128 frames; ${found.map((f) => `${f.name} ${round(f.ms)}`).join(", ")}`,
      hold: "≤ 0.75 of a block",
      pass: worst.ms <= 0.75 * BLOCK,
    },
  ];
}
