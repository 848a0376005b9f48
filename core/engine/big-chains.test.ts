import { expect, test } from "@jest/globals";
import { compileKernels, startKernels } from "../dsp";
import {
  checkInstrument,
  type Instrument,
  migrate,
  newInstrument,
  newLayer,
  newUnit,
  newZone,
  setSource,
} from "../instrument";
import { kindsAt } from "../units";
import { compile } from "./compile";
import { Engine } from "./engine";
import { BENCH_SHA, bench, peak, RATE, sine } from "./test-bench";

const kinds = kindsAt("insert");
const stages = kindsAt("stage");

test.each([
  ["filters", () => "filter" as const],
  ["combs", () => "comb" as const],
  ["all kinds", (s: number) => stages[s % stages.length] ?? "filter"],
])("64 layers with 8 stages (%s) and 8 inserts each: the plan is taken, and it sounds", (_what, kindOf) => {
  const full = (doc: Instrument): Instrument => ({
    ...doc,
    layers: Array.from({ length: 64 }, (_, l) => {
      const layer = newLayer(`l${l}`, `Layer ${l}`);
      const zone = newZone({ id: `z${l}`, sample: BENCH_SHA(0), end: RATE, keyLow: 60, keyHigh: 60, root: 60 });
      return {
        ...layer,
        stages: Array.from({ length: 8 }, (__, s) => newUnit(kindOf(s), `f${s}`)),
        inserts: Array.from({ length: 8 }, (__, i) => newUnit(kinds[(l + i) % kinds.length] ?? "stereo", `i${i}`)),
        groups: layer.groups.map((g) => ({ ...g, zones: [zone] })),
      };
    }),
  });
  const b = bench([sine(RATE, 220, 0.01)], [], full);
  b.engine.midi(0x90, 60, 127);
  const { left } = b.play(4800);
  expect(left.every(Number.isFinite)).toBe(true);
  expect(peak(left)).toBeGreaterThan(0.01);
});

test("a stored chain of a thousand units is put right and says so; a missing impulse lets the sound past", () => {
  const b = bench([sine(RATE, 220, 0.3)], [{ keyLow: 60, keyHigh: 60, root: 60 }], (doc) => ({
    ...doc,
    effects: [{ ...newUnit("convolution", "room"), sample: "f".repeat(64) }],
  }));
  b.engine.midi(0x90, 60, 127);
  expect(peak(b.play(4800).left)).toBeGreaterThan(0.1);
  const many = { ...b.instrument, effects: Array.from({ length: 1000 }, (_, i) => newUnit("delay", `d${i}`)) };
  expect(checkInstrument(JSON.parse(JSON.stringify(many)))).toMatchObject({ ok: false });
  const { instrument, faults } = migrate(JSON.parse(JSON.stringify(many)));
  expect(instrument?.effects).toHaveLength(32);
  expect(faults.some((f) => f.path.startsWith("effects") && f.loses)).toBe(true);
});

test("a document of before this version opens with empty inserts and sends, and its filters and effects on", () => {
  const { instrument } = bench([sine(RATE, 220, 0.3)], [{ keyLow: 60, keyHigh: 60, root: 60 }]);
  const old = JSON.parse(JSON.stringify(instrument));
  old.version = 4;
  delete old.sends;
  for (const layer of old.layers) {
    delete layer.inserts;
    delete layer.sends;
    for (const stage of layer.stages) delete stage.params.on;
  }
  for (const unit of old.effects) delete unit.params.on;
  const { instrument: now, faults } = migrate(old);
  expect(faults).toEqual([]);
  expect(now).toEqual(instrument);
});

test("memory that is refused: fewer voices of the layer, then none, and the rest sounds on", () => {
  const made = setSource("main", "oscillator").apply(newInstrument("bench", "Bench"));
  const combs = Array.from({ length: 8 }, (_, s) => newUnit("comb", `c${s}`));
  const heavy: Instrument = { ...made, layers: made.layers.map((l) => ({ ...l, stages: combs })) };
  for (const [bytes, least] of [
    [24e6, 1],
    [7e6, 0],
  ] as const) {
    const engine = new Engine(startKernels(compileKernels(), bytes), { rate: RATE });
    engine.setPlan(compile(made));
    for (let key = 40; key < 60; key++) engine.midi(0x90, key, 100);
    const left = new Float32Array(RATE);
    const right = new Float32Array(RATE);
    const play = () => {
      for (let at = 0; at < left.length; at += 128) engine.render(left, right, at, Math.min(left.length, at + 128));
    };
    play();
    expect(engine.status().voices).toBe(20);
    engine.setPlan(compile(heavy));
    for (let key = 40; key < 60; key++) engine.midi(0x90, key + 24, 100);
    play();
    expect(left.every(Number.isFinite)).toBe(true);
    const { voices } = engine.status();
    expect(voices).toBeGreaterThanOrEqual(least);
    expect(voices).toBeLessThan(40);
    // What found no room comes in again once there is some.
    engine.setPlan(compile(made));
    engine.midi(0x90, 90, 100);
    play();
    expect(peak(left)).toBeGreaterThan(0.01);
  }
});
