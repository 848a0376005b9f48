import { expect, test } from "@jest/globals";
import { bakeWaves } from "../../core/dsp";
import { BENCH_SHA, benchInstrument, newLoop, RATE, sine } from "../../core/engine/test-bench";
import type { Instrument, Zone } from "../../core/instrument";
import type { ToEngine } from "./protocol";
import { SampleLoader } from "./sample-loader";
import { type LoaderCalls, SampleLoading } from "./sample-loading";

const SOUNDS = [sine(RATE, 220), sine(RATE, 330), sine(RATE, 440)];
const three = () => benchInstrument(SOUNDS, [{ sound: 0 }, { sound: 1 }, { sound: 2 }]);
const withZone = (instrument: Instrument, id: string, change: Partial<Zone>): Instrument => ({
  ...instrument,
  layers: instrument.layers.map((layer) => ({
    ...layer,
    groups: layer.groups.map((g) => ({ ...g, zones: g.zones.map((z) => (z.id === id ? { ...z, ...change } : z)) })),
  })),
});

function setup(missing: string[] = [], broken: string[] = []) {
  const asked: string[] = [];
  const loader = new SampleLoader(async (sha) => {
    asked.push(sha);
    if (broken.includes(sha)) throw new Error("it is damaged");
    return missing.includes(sha) ? null : (SOUNDS[Number.parseInt(sha, 16)] ?? null);
  });
  const sent: ToEngine[] = [];
  const told: string[] = [];
  let rested: () => void = () => {};
  let progress = [0, 0];
  const calls = new Proxy({} as LoaderCalls, {
    get:
      (_, name) =>
      async (...args: unknown[]) => {
        // As through a port: a turn of the event loop, and what is handed over is another object.
        await new Promise((resolve) => setImmediate(resolve));
        return structuredClone(
          await (loader as never as Record<string, (...a: unknown[]) => unknown>)[String(name)]?.(...args),
        );
      },
  });
  const loading = new SampleLoading(calls, {
    send: (message) => sent.push(message),
    told: (text) => told.push(text),
    progress: (loaded, wanted) => {
      progress = [loaded, wanted];
      if (loaded === wanted) rested();
    },
  });
  const all = () =>
    new Promise<void>((resolve) => {
      rested = resolve;
    });
  const zonesSent = () => sent.flatMap((m) => (m.type === "paths" ? m.paths.map((p) => p.zone) : []));
  const samplesSent = () => sent.flatMap((m) => (m.type === "sample" ? [m.sha] : []));
  return { loading, sent, told, asked, all, zonesSent, samplesSent, progress: () => progress };
}

const settled = async (until: () => boolean) => {
  for (let i = 0; i < 200 && !until(); i++) await new Promise((resolve) => setImmediate(resolve));
};

test("every sample is sent once, and after it the paths of its zones", async () => {
  const s = setup();
  s.loading.begin(RATE);
  const done = s.all();
  s.loading.show(three());
  await done;
  await settled(() => s.zonesSent().length === 3);
  expect(s.samplesSent()).toEqual([BENCH_SHA(0), BENCH_SHA(1), BENCH_SHA(2)]);
  expect(s.zonesSent()).toEqual(["z0", "z1", "z2"]);
  expect(s.sent.map((m) => m.type)).toEqual(["sample", "paths", "sample", "paths", "sample", "paths"]);
  // Shown again with nothing changed: nothing is sent.
  s.loading.show(withZone(three(), "z1", { gain: 3 }));
  await settled(() => false);
  expect(s.sent).toHaveLength(6);
});

test("a loop that is moved while samples load comes first, and only its path is sent", async () => {
  const s = setup();
  s.loading.begin(RATE);
  s.loading.show(three());
  await settled(() => s.samplesSent().length === 1);
  const moved = withZone(three(), "z0", { loop: newLoop({ start: 9000, end: 18000, fade: 200 }) });
  s.loading.show(moved);
  const done = s.all();
  await done;
  await settled(() => s.zonesSent().filter((z) => z === "z0").length === 2);
  expect(s.samplesSent()).toEqual([BENCH_SHA(0), BENCH_SHA(1), BENCH_SHA(2)]);
  const last = s.sent
    .flatMap((m) => (m.type === "paths" ? m.paths : []))
    .filter((p) => p.zone === "z0")
    .at(-1);
  expect(last?.reading.loop?.end).toBe(18000);
  expect(last?.seams.length).toBeGreaterThan(0);
});

test("a zone that goes and comes again by undo gets its path again", async () => {
  const s = setup();
  s.loading.begin(RATE);
  s.loading.show(three());
  await settled(() => s.zonesSent().length === 3);
  const without = {
    ...three(),
    layers: three().layers.map((l) => ({ ...l, groups: l.groups.map((g) => ({ ...g, zones: g.zones.slice(1) })) })),
  };
  s.loading.show(without);
  await settled(() => false);
  expect(s.zonesSent()).toHaveLength(3);
  s.loading.show(three());
  await settled(() => s.zonesSent().length === 4);
  expect(s.zonesSent().at(-1)).toBe("z0");
});

test("one sample that can't be read is told once and keeps no other waiting; one that is missing neither", async () => {
  const s = setup([BENCH_SHA(1)], [BENCH_SHA(0)]);
  s.loading.begin(RATE);
  s.loading.show(three());
  await settled(() => s.samplesSent().length === 1);
  s.loading.show(withZone(three(), "z2", { gain: 1 }));
  await settled(() => false);
  expect(s.samplesSent()).toEqual([BENCH_SHA(2)]);
  expect(s.told).toEqual(["The sample s0 can't be read: it is damaged."]);
  // What can't be read isn't on its way.
  expect(s.progress()).toEqual([1, 1]);
  s.loading.again();
  await settled(() => s.told.length === 2);
  expect(s.samplesSent().at(-1)).toEqual(BENCH_SHA(2));
  expect(s.told).toHaveLength(2);
});

test("another way to hold samples sends them anew, and a new audio thread gets everything", async () => {
  const s = setup();
  s.loading.begin(RATE);
  s.loading.show(three());
  await settled(() => s.zonesSent().length === 3);
  const small = {
    ...three(),
    play: { ...three().play, params: { ...three().play.params, sampleMemory: "int16" as const } },
  };
  s.loading.show(small);
  await settled(() => s.zonesSent().length === 6);
  expect(s.sent.flatMap((m) => (m.type === "sample" ? [m.packed.holding] : [])).slice(3)).toEqual([
    "int16",
    "int16",
    "int16",
  ]);
  s.loading.begin(RATE);
  s.loading.show(small);
  await settled(() => s.zonesSent().length === 9);
  expect(s.samplesSent()).toHaveLength(9);
});

test("an answer for an audio thread that is gone is not sent", async () => {
  const s = setup();
  s.loading.begin(RATE);
  s.loading.show(three());
  s.loading.begin(RATE);
  s.loading.show(three());
  await settled(() => s.zonesSent().length >= 3);
  await settled(() => false);
  expect(s.samplesSent().sort()).toEqual([BENCH_SHA(0), BENCH_SHA(1), BENCH_SHA(2)]);
});

test("the cycles of a wavetable that the audio thread asks for are made and sent; for a thread that is gone they aren't", async () => {
  const s = setup();
  s.loading.begin(RATE);
  await s.loading.makeCycles(BENCH_SHA(0), 441);
  const [message] = s.sent;
  if (message?.type !== "cycles") throw new Error("cycles were not sent");
  expect(message.sha).toBe(BENCH_SHA(0));
  expect(message.ready.cycle).toBe(441);
  expect(message.ready.count).toBe(Math.floor(RATE / 441));
  expect(message.ready.floats.some((x) => Math.abs(x) > 0.1)).toBe(true);
  const late = s.loading.makeCycles(BENCH_SHA(1), 441);
  s.loading.begin(RATE);
  await late;
  expect(s.sent).toHaveLength(1);
});

test("cycles of a sample that can't be read are told", async () => {
  const s = setup([], [BENCH_SHA(2)]);
  s.loading.begin(RATE);
  s.loading.show(three());
  await s.loading.makeCycles(BENCH_SHA(2), 441);
  expect(s.told.some((text) => /can't be read: it is damaged/.test(text))).toBe(true);
});

test("the simple waves' tables that the audio thread asks for are made and sent; for a thread that is gone they aren't", async () => {
  const s = setup();
  s.loading.begin(RATE);
  await s.loading.makeWaves();
  const [message] = s.sent;
  if (message?.type !== "waves") throw new Error("the waves were not sent");
  expect(message.ready).toEqual(bakeWaves());
  const late = s.loading.makeWaves();
  s.loading.begin(RATE);
  await late;
  expect(s.sent).toHaveLength(1);
});
