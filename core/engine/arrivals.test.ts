import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { compileKernels, startKernels } from "../dsp";
import type { Instrument, Loop, Zone } from "../instrument";
import { compile } from "./compile";
import { Engine } from "./engine";
import type { Plan } from "./plan";
import { applyDelta, planDelta } from "./plan-delta";
import { type PackedSample, packSample, storedAt } from "./stored-sample";
import { BENCH_SHA, bench, benchInstrument, newLoop, peak, RATE, sine, steepest } from "./test-bench";
import { REASON } from "./trace";
import { bakeSeams, readingOf } from "./zone-reading";

const KERNELS = compileKernels();
const TONE = sine(RATE, 220, 0.4);
const STEREO = { rate: RATE, channels: [sine(RATE, 220, 0.4).channels[0], sine(RATE, 330, 0.3).channels[0]] } as never;

const packed = (audio = TONE): PackedSample => {
  const made = packSample(audio, "asRecorded");
  if (!made) throw new Error("nothing was packed");
  return made;
};
const pathOf = (zone: Zone, sample: PackedSample) => ({
  zone: zone.id,
  reading: readingOf(zone),
  seams: bakeSeams(sample.bytes.buffer, storedAt(sample, 0), zone),
});
const withZone = (instrument: Instrument, change: Partial<Zone>): Instrument => ({
  ...instrument,
  layers: instrument.layers.map((layer) => ({
    ...layer,
    groups: layer.groups.map((g) => ({ ...g, zones: g.zones.map((z) => ({ ...z, ...change })) })),
  })),
});
const zoneOf = (instrument: Instrument): Zone => instrument.layers[0]?.groups[0]?.zones[0] as Zone;

/** An engine to which everything comes ready, as in the audio thread. */
function arriving(instrument: Instrument, sample: PackedSample) {
  const engine = new Engine(startKernels(KERNELS), { rate: RATE, arriving: true });
  engine.setPlan(compile(instrument));
  engine.takeSample(BENCH_SHA(0), sample);
  engine.takePaths([pathOf(zoneOf(instrument), sample)]);
  const play = (frames: number, budget = 0): Float32Array => {
    const left = new Float32Array(frames);
    const right = new Float32Array(frames);
    for (let at = 0; at < frames; at += 128) {
      engine.render(left, right, at, Math.min(frames, at + 128));
      if (budget > 0) engine.arrive(budget);
    }
    return left;
  };
  return { engine, play };
}

const loops: [string, Partial<Zone>][] = [
  ["no loop", {}],
  ["an end before the sample's", { end: 30000 }],
  ["a forward loop with a crossfade", { loop: newLoop({ start: 9000, end: 21000, fade: 900 }) }],
  ["a short loop", { loop: newLoop({ start: 9000, end: 9090, fade: 10 }) }],
  ["there and back, thrice", { loop: newLoop({ start: 9000, end: 15000, mode: "alternating", times: 6 }) }],
  ["backward, reversed", { reverse: true, loop: newLoop({ start: 9000, end: 15000, fade: 500, mode: "backward" }) }],
  [
    "until release, and a release loop",
    {
      loop: newLoop({ start: 9000, end: 12000, fade: 200, until: "release" }),
      releaseLoop: newLoop({ start: 20000, end: 26000, fade: 400 }),
    },
  ],
];

test.each(loops)("what was made ready elsewhere sounds as what is made at once: %s", (_, zone) => {
  for (const sound of [TONE, STEREO]) {
    const own = bench([sound], [zone]);
    const sample = packed(sound);
    const other = arriving(own.instrument, sample);
    other.engine.arrive(Number.POSITIVE_INFINITY);
    for (const { engine } of [own, other]) engine.midi(0x90, 60, 100);
    const wanted = own.play(RATE).left;
    const heard = other.play(RATE);
    expect(peak(wanted)).toBeGreaterThan(0.1);
    expect(heard).toEqual(wanted);
  }
});

test("a sample comes in a little at a time, and sounds once its zones' paths are there", () => {
  const { instrument } = bench([TONE], [{}]);
  const { engine, play } = arriving(instrument, packed());
  engine.midi(0x90, 60, 100);
  // 96,000 bytes of sound in pieces of 4,096 take at least 24 blocks.
  expect(peak(play(128 * 20, 4096))).toBe(0);
  expect(engine.hasArrivals).toBe(true);
  play(128 * 40, 4096);
  expect(engine.hasArrivals).toBe(false);
  engine.midi(0x90, 62, 100);
  expect(peak(play(RATE / 4))).toBeGreaterThan(0.1);
});

test("a zone whose path is still on its way says so; one whose sample isn't there says that", () => {
  const { instrument } = bench([TONE], [{}]);
  const engine = new Engine(startKernels(KERNELS), { rate: RATE, arriving: true });
  engine.setPlan(compile(instrument));
  const reason = () => {
    engine.midi(0x90, 60, 100);
    engine.render(new Float32Array(128), new Float32Array(128), 0, 128);
    engine.midi(0x80, 60, 0);
    return engine.trace.drain().at(-1)?.at[0]?.reason;
  };
  expect(reason()).toBe(REASON.missing);
  engine.takeSample(BENCH_SHA(0), packed());
  engine.arrive(Number.POSITIVE_INFINITY);
  expect(reason()).toBe(REASON.coming);
  engine.takePaths([pathOf(zoneOf(instrument), packed())]);
  engine.arrive(Number.POSITIVE_INFINITY);
  expect(reason()).toBe(REASON.played);
});

test("a loop that is moved under a held note is followed once its path has come, without a click", () => {
  const loop = (end: number): Loop => newLoop({ start: 9000, end, fade: 400 });
  const { instrument } = bench([TONE], [{ loop: loop(18000) }]);
  const sample = packed();
  const { engine, play } = arriving(instrument, sample);
  engine.arrive(Number.POSITIVE_INFINITY);
  engine.midi(0x90, 60, 100);
  const still = play(RATE);
  let steep = 0;
  let now = instrument;
  for (const end of [18120, 19000, 24000, 9600]) {
    now = withZone(now, { loop: loop(end) });
    engine.setPlan(compile(now));
    const before = play(4800);
    engine.takePaths([pathOf(zoneOf(now), sample)]);
    const after = play(4800, 65536);
    const joined = new Float32Array([...before, ...after]);
    steep = Math.max(steep, steepest(joined));
    expect(peak(after)).toBeGreaterThan(0.5 * peak(still));
  }
  // Fades of 3 ms between places of other phase: a little steeper than the tone, far from a jump.
  expect(steep).toBeLessThan(1.5 * steepest(still, RATE / 2));
});

test("a path for a zone that is another by now is left, and one that comes after it is taken", () => {
  const { instrument } = bench([TONE], [{}]);
  const sample = packed();
  const { engine, play } = arriving(instrument, sample);
  engine.arrive(Number.POSITIVE_INFINITY);
  const late = pathOf({ ...zoneOf(instrument), end: 2400 }, sample);
  engine.takePaths([late, { ...late, zone: "nobody" }]);
  engine.arrive(Number.POSITIVE_INFINITY);
  engine.midi(0x90, 60, 100);
  play(4800);
  expect(peak(play(4800))).toBeGreaterThan(0.1);
});

test("a sample for which there is no room is told, and what comes after it sounds", () => {
  const { instrument } = bench([TONE], [{}]);
  const engine = new Engine(startKernels(KERNELS), { rate: RATE, arriving: true });
  engine.setPlan(compile(instrument));
  engine.takeSample(BENCH_SHA(0), { ...packed(), frames: 2 ** 34 });
  engine.takeSample(BENCH_SHA(0), packed());
  engine.takePaths([pathOf(zoneOf(instrument), packed())]);
  expect(() => engine.arrive(Number.POSITIVE_INFINITY)).toThrow(/no room|memory/);
  engine.arrive(Number.POSITIVE_INFINITY);
  engine.midi(0x90, 60, 100);
  const left = new Float32Array(4800);
  engine.render(left, left.slice());
  expect(peak(left)).toBeGreaterThan(0.1);
});

test("what is replaced gives its memory back", () => {
  const { instrument } = bench([TONE], [{ loop: newLoop({ start: 9000, end: 18000, fade: 400 }) }]);
  const sample = packed();
  const { engine, play } = arriving(instrument, sample);
  engine.arrive(Number.POSITIVE_INFINITY);
  engine.midi(0x90, 60, 100);
  play(4800);
  const used = engine.memoryUsed;
  let now = instrument;
  for (let i = 0; i < 50; i++) {
    now = withZone(now, { loop: newLoop({ start: 9000, end: 18000 + i, fade: 400 }) });
    engine.setPlan(compile(now));
    engine.takePaths([pathOf(zoneOf(now), sample)]);
    play(1280, 65536);
    engine.tidy();
  }
  play(4800);
  engine.tidy();
  expect(Math.abs(engine.memoryUsed - used)).toBeLessThan(256);
  // Without the zone, the sample goes as well.
  engine.setPlan(compile({ ...withZone(now, {}), samples: [], layers: [] }));
  play(RATE);
  engine.tidy();
  expect(engine.memoryUsed).toBeLessThan(used - sample.bytes.length);
});

describe("a plan's delta", () => {
  const zones = (n: number) => Array.from({ length: n }, (_, i) => ({ keyLow: i % 100, keyHigh: (i % 100) + 3 }));
  const big = benchInstrument([TONE], zones(400));
  const strip = (plan: Plan) => JSON.parse(JSON.stringify(plan));

  test("gives the plan again, whatever is done to the zones", () => {
    const random = seededRandom(7);
    let instrument = big;
    let sent: Plan | null = null;
    let have: Plan | null = null;
    for (let step = 0; step < 60; step++) {
      instrument = {
        ...instrument,
        layers: instrument.layers.map((layer) => ({
          ...layer,
          groups: layer.groups.map((g) => {
            const list = [...g.zones];
            const at = Math.floor(random() * list.length);
            const kind = step % 4;
            if (kind === 0) list[at] = { ...(list[at] as Zone), gain: step };
            else if (kind === 1) list.splice(at, 1 + Math.floor(random() * 3));
            else if (kind === 2) list.splice(at, 0, { ...(list[0] as Zone), id: `n${step}` });
            else list.reverse();
            return { ...g, zones: list };
          }),
        })),
      };
      const plan = compile(instrument);
      // As it comes through a port: nothing is the same object there.
      have = applyDelta(structuredClone(planDelta(plan, sent)), have);
      sent = plan;
      expect(strip(have)).toEqual(strip(plan));
    }
  });

  test("of one changed zone among many holds that zone alone", () => {
    const sent = compile(big);
    const changed = {
      ...big,
      layers: big.layers.map((layer) => ({
        ...layer,
        groups: layer.groups.map((g) => ({ ...g, zones: g.zones.map((z, i) => (i === 200 ? { ...z, gain: 3 } : z)) })),
      })),
    };
    const delta = planDelta(compile(changed), sent);
    const runs = delta.layers[0]?.groups[0]?.zones ?? [];
    expect(runs).toEqual([
      { from: 0, count: 200 },
      { zones: [expect.objectContaining({ gain: 3 })] },
      { from: 201, count: 199 },
    ]);
    expect(Object.keys(delta.parts)).not.toContain("samples");
    expect(JSON.stringify(delta).length).toBeLessThan(20000);
  });
});
