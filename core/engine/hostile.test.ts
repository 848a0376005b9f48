import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { type Audio, seededRandom } from "../audio";
import { Limiter, SPAN_JUMP, SPAN_LIMIT, SPAN_NEXT } from "../dsp";
import {
  addGroup,
  addRoute,
  addUnit,
  checkInstrument,
  type Instrument,
  listParams,
  listSources,
  moveZones,
  newGroup,
  newLoop,
  newSample,
  newUnit,
  setParam,
  setRoom,
  together,
  type Zone,
} from "../instrument";
import { EVENT, EventQueue } from "./events";
import { NoteGate } from "./note-gate";
import type { SharedParts } from "./shared-parts";
import { BENCH_SHA, bench, peak, RATE, rms, sine, steepest } from "./test-bench";
import { REASON } from "./trace";

const sounds = [
  sine(9000, 300, 0.3),
  sine(7000, 451, 0.3),
  { rate: 22050, channels: [new Float32Array(3), new Float32Array(3)] },
];
const checked = (x: Float32Array): void => {
  for (let i = 0; i < x.length; i++) {
    const v = x[i] as number;
    if (!(Math.abs(v) <= Limiter.CEILING + 1e-6)) throw new Error(`heard ${v} at ${i}`);
  }
};

/** An instrument with everything at random: parameters, zones, routes from anything to anything. */
function anyInstrument(i: Instrument, seed: number): Instrument {
  const random = seededRandom(seed);
  const some = (n: number): number => Math.floor(random() * n);
  const ids = i.layers.flatMap((l) => l.groups.flatMap((g) => g.zones.map((z) => z.id)));
  let doc = together("", [
    addGroup("main", newGroup("second", "Second")),
    moveZones(new Set(ids.filter(() => random() < 0.5)), "main", "second"),
    addUnit("envelopes", newUnit("envelope", "e1")),
    addUnit("envelopes", {
      ...newUnit("path", "p1"),
      curve: [0, 0.1, 0.3].map((x) => ({ x, y: random(), bend: random() * 2 - 1 })),
    }),
    addUnit("lfos", newUnit("lfo", "lfo2")),
    addUnit("mics", newUnit("mic", "m1")),
  ]).apply(i);
  for (let r = 0; r < 12; r++) {
    const source = listSources(doc)[some(listSources(doc).length)]?.id ?? "wheel";
    // What rings on in the effects is no matter of this test.
    const targets = listParams(doc).filter((p) => !p.address.startsWith("effects/"));
    const target = targets[some(targets.length)]?.address ?? "";
    doc = addRoute({
      id: `r${r}`,
      source,
      target,
      amount: (random() * 2 - 1) * 10,
      smooth: random() < 0.3 ? random() * 0.1 : null,
    }).apply(doc);
  }
  for (const { address, spec } of listParams(doc)) {
    if (random() < 0.6 || address.startsWith("effects/")) continue;
    const value =
      spec.type === "choice"
        ? (spec.choices[some(spec.choices.length)]?.id ?? "")
        : spec.min + random() * (spec.max - spec.min);
    doc = setParam(doc, address, value).apply(doc);
  }
  return doc;
}

function anyZones(seed: number): (Partial<Zone> & { sound: number })[] {
  const random = seededRandom(seed);
  const some = (n: number): number => Math.floor(random() * n);
  const loop = () =>
    random() < 0.4
      ? null
      : newLoop({
          start: some(9000),
          end: some(9500),
          fade: some(4000),
          mode: (["forward", "backward", "alternating"] as const)[some(3)] ?? "forward",
          times: some(5),
          until: random() < 0.5 ? "release" : "end",
        });
  return Array.from({ length: 12 }, () => {
    const low = some(128);
    return {
      sound: some(3),
      keyLow: low,
      keyHigh: Math.min(127, low + some(60)),
      velLow: 1 + some(60),
      velHigh: 61 + some(67),
      velFadeLow: some(20),
      keyFadeHigh: some(9),
      root: some(128),
      track: random() * 2 - 0.5,
      start: some(2000),
      end: 2001 + some(7000),
      reverse: random() < 0.3,
      oneShot: random() < 0.2,
      repeat: 1 + some(3),
      loop: loop(),
      releaseLoop: loop(),
      mic: random() < 0.3 ? "m1" : null,
    };
  });
}

describe("random documents and random events", () => {
  test("10,000 notes: never a number that isn't finite, nothing above the ceiling, no voice that stays, silence in the end", () => {
    for (let seed = 1; seed <= 8; seed++) {
      const b = bench(sounds, anyZones(seed), (i) => anyInstrument(i, seed));
      expect(checkInstrument(JSON.parse(JSON.stringify(b.instrument)))).toMatchObject({ ok: true });
      const random = seededRandom(seed * 77);
      const byte = (): number => Math.floor(random() * 128);
      for (let i = 0; i < 1250; i++) {
        const at = Math.floor(random() * RATE);
        b.engine.midi(0x90 + Math.floor(random() * 16), byte(), byte(), at);
        b.engine.midi(
          [0x80, 0xa0, 0xb0, 0xd0, 0xe0][Math.floor(random() * 5)] ?? 0x80,
          byte(),
          byte(),
          at + Math.floor(random() * 9000),
        );
      }
      const { left, right } = b.play(RATE + 9600);
      checked(left);
      checked(right);
      b.change(setParam(b.instrument, "layers/main/strip/level", -3).apply(b.instrument));
      b.engine.midi(0xb0, 123, 0);
      b.play(960);
      expect(b.engine.status()).toMatchObject({ voices: 0, broken: 0 });
      expect(peak(b.play(960).left)).toBeLessThan(1e-3);
    }
  });

  test("a document that is replaced again and again while notes sound", () => {
    const b = bench(sounds, anyZones(3));
    const random = seededRandom(5);
    for (let i = 0; i < 40; i++) {
      b.engine.midi(0x90, 30 + Math.floor(random() * 70), 100);
      checked(b.play(500).left);
      b.change(anyInstrument(bench(sounds, anyZones(i)).instrument, i));
    }
    b.engine.midi(0xb0, 123, 0);
    b.play(2000);
    expect(b.engine.status()).toMatchObject({ voices: 0, broken: 0 });
  });

  test("the same bits for any split, with everything at random", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 50 }), fc.integer({ min: 1, max: 200 }), (seed, block) => {
        const [one, two] = [128, block].map((size) => {
          const b = bench(sounds, anyZones(seed), (i) => anyInstrument(i, seed));
          for (let n = 0; n < 12; n++)
            b.engine.midi(n % 3 === 2 ? 0x80 : 0x90, 40 + ((n * 7) % 40), 90, n * 333 + (n % 5));
          return b.play(4000, size);
        });
        expect(two).toEqual(one);
      }),
      { numRuns: 6, seed: 4 },
    );
  });
});

describe("too much", () => {
  test("1,000 zones on one key: as many voices as allowed, all told", () => {
    const b = bench(
      sounds,
      Array.from({ length: 1000 }, () => ({ sound: 0, root: 60 })),
    );
    b.engine.midi(0x90, 60, 100);
    checked(b.play(2000).left);
    expect(b.engine.status().voices).toBeLessThanOrEqual(64);
    expect(b.engine.trace.drain()[0]).toMatchObject({ zones: 1000, stolen: expect.any(Number) });
  });

  test("10,000 notes at once: some are dropped, and it says how many", () => {
    const b = bench(sounds, [{ sound: 0 }]);
    for (let i = 0; i < 10000; i++) b.engine.midi(0x90, i % 128, 100);
    checked(b.play(256).left);
    expect(b.engine.status().dropped).toBe(10000 - 512);
    b.engine.midi(0xb0, 123, 0);
    b.play(2000);
    b.engine.midi(0x90, 60, 100);
    expect(peak(b.play(500).left)).toBeGreaterThan(0.1);
  });

  test("50,000 controller messages in a second", () => {
    const b = bench(sounds, [{ sound: 0, loop: newLoop({ start: 100, end: 9000 }) }], (i) =>
      addRoute({ id: "r", source: "controllers/7", target: "layers/main/strip/pan", amount: 1 }).apply(i),
    );
    b.engine.midi(0x90, 60, 100);
    for (let second = 0; second < 5; second++) {
      for (let i = 0; i < 10000; i++) b.engine.midi(0xb0, i % 100, i % 128, b.engine.frame + i);
      checked(b.play(10000).left);
    }
    expect(b.engine.status()).toMatchObject({ dropped: 0, broken: 0 });
  });

  test("a rate that would run off is held at seven octaves", () => {
    const b = bench(sounds, [{ sound: 0, root: 0, tune: 1200, loop: newLoop({ start: 0, end: 9000 }) }], (i) =>
      setParam(i, "layers/main/source/transpose", 24).apply(i),
    );
    b.engine.midi(0x90, 127, 100);
    checked(b.play(4000).left);
    expect(b.engine.trace.drain()[0]?.at[0]?.rate).toBe(128);
  });

  test("a sample that isn't finite is silent where it isn't", () => {
    const broken = Float32Array.from({ length: 4000 }, (_, i) =>
      i % 100 === 50 ? Number.NaN : i % 100 === 51 ? Number.POSITIVE_INFINITY : 0.1,
    );
    const b = bench([{ rate: RATE, channels: [broken] }], [{ root: 60 }]);
    b.engine.midi(0x90, 60, 100);
    const { left } = b.play(3000);
    checked(left);
    expect(rms(left)).toBeGreaterThan(0.08);
  });
});

describe("numbers that leave all bounds", () => {
  const huge: Audio = { rate: RATE, channels: [new Float32Array(9000).fill(3e37)] };
  const both = [
    { sound: 0, keyHigh: 60, root: 60 },
    { sound: 1, keyLow: 61, root: 61 },
  ];
  const sounding = (keys: readonly number[], mode: string) => {
    const b = bench([sine(9000, 440, 0.3), huge], both, (doc) =>
      setParam(doc, "layers/main/stages/filter/type", mode).apply(doc),
    );
    for (const key of keys) b.engine.midi(0x90, key, 100);
    return { b, left: b.play(4800).left };
  };

  test.each(["off", "low", "band"])(
    "they mute the voice that made them, told, and not a bit of any other: filter %s",
    (mode) => {
      const alone = sounding([60], mode).left;
      const { b, left } = sounding([60, 61], mode);
      expect(left).toEqual(alone);
      expect(b.engine.status()).toMatchObject({ voices: 1, broken: 1 });
      // Its pair is as good as new.
      b.engine.midi(0x90, 58, 100);
      expect(rms(b.play(4800).left)).toBeGreaterThan(mode === "band" ? 0.001 : 0.1);
    },
  );

  test("an impulse that isn't finite everywhere makes a room all the same", () => {
    const impulse = Float32Array.from({ length: 900 }, (_, i) => (i === 0 ? 1 : i === 500 ? Number.NaN : 0));
    const sha = BENCH_SHA(9);
    const b = bench([sine(9000, 440, 0.3)], [{ root: 60 }], (doc) =>
      setRoom(newSample({ sha, name: "room", frames: 900, use: "impulse" })).apply(doc),
    );
    b.engine.addImpulse(sha, { rate: RATE, channels: [impulse] });
    b.engine.midi(0x90, 60, 100);
    const { left } = b.play(9000);
    checked(left);
    expect(b.engine.status().broken).toBe(0);
  });

  test("a ring of spans with nothing in them ends", () => {
    const b = bench([sine(9000, 440, 0.3)], [{ root: 60, loop: newLoop({ start: 0, end: 9000 }) }]);
    b.engine.midi(0x90, 60, 100);
    b.play(480);
    const { heap, pool } = (b.engine as unknown as { shared: SharedParts }).shared;
    const voice = pool.voices.find((v) => v.active);
    if (!voice) throw new Error("nothing sounds");
    const span = voice.spanOf(heap) / 4;
    heap.u32[span + SPAN_LIMIT / 4] = 0;
    heap.u32[span + SPAN_NEXT / 4] = span * 4;
    heap.i32[span + SPAN_JUMP / 4] = 0;
    b.play(480);
    expect(b.engine.status().voices).toBe(0);
  });
});

test("a rule can't put a note off for longer than a minute, nor let it last for longer than an hour", () => {
  const queue = new EventQueue();
  const begun: { key: number; playedVelocity: number; delay: number }[] = [];
  const gate: NoteGate = new NoteGate(queue, RATE, {
    begin: () => begun.push({ ...gate.note }),
    release: () => {},
    drop: () => {},
  });
  gate.rules = {
    start: (key, velocity, _time, emit) => {
      emit(key, velocity, 1e9, 1e12);
      return true;
    },
    end: () => true,
  };
  gate.press(61, 77, 3, 0);
  expect(queue.nextFrame).toBe(60 * RATE);
  expect(queue.kind).toBe(EVENT.soundingOn);
  gate.resume(queue.value(0), queue.value(1), queue.value(2), queue.value(3));
  expect(begun).toMatchObject([{ key: 61, playedKey: 61, playedVelocity: 77, channel: 3, delay: 60 * RATE }]);
  queue.shift();
  expect([queue.kind, queue.nextFrame]).toEqual([EVENT.soundingOff, 3660 * RATE]);
});

test("a note right after all notes off sounds", () => {
  const b = bench(sounds, [{ sound: 0 }]);
  b.engine.midi(0x90, 60, 100);
  b.play(480);
  b.engine.midi(0xb0, 123, 0);
  b.engine.midi(0x90, 64, 100);
  b.play(960);
  expect(b.engine.status().voices).toBe(1);
});

test("samples that are to be held in another way are so at once; what sounds goes on, and the old copies are given back", () => {
  const b = bench(sounds, [{ sound: 0, root: 60, loop: newLoop({ start: 0, end: 8960 }) }]);
  b.engine.midi(0x90, 60, 100);
  b.play(4800);
  const wide = b.engine.memoryUsed;
  b.change(setParam(b.instrument, "play/sampleMemory", "int16").apply(b.instrument));
  sounds.forEach((audio, i) => {
    b.engine.addSample(BENCH_SHA(i), audio);
  });
  const { left } = b.play(4800);
  expect(steepest(left)).toBeLessThan(0.03);
  b.engine.midi(0x80, 60, 0);
  b.play(2 * RATE);
  b.engine.tidy();
  expect(b.engine.memoryUsed).toBeLessThan(wide - 9000);
  b.engine.midi(0x90, 60, 100);
  expect(rms(b.play(4800).left)).toBeGreaterThan(0.1);
});

describe("what vanishes", () => {
  test("a sample that goes while it plays: its note fades out, the next one says that it is missing, and it can come again", () => {
    const b = bench(sounds, [{ sound: 0, loop: newLoop({ start: 100, end: 8900 }) }]);
    b.engine.midi(0x90, 60, 100);
    b.play(4800);
    b.engine.trace.drain();
    const before = b.engine.memoryUsed;
    b.engine.dropSample(BENCH_SHA(0));
    checked(b.play(600).left);
    expect(b.engine.status().voices).toBe(0);
    b.engine.tidy();
    expect(b.engine.memoryUsed).toBeLessThan(before);
    b.engine.midi(0x90, 60, 100);
    expect(peak(b.play(600).left)).toBe(0);
    expect(b.engine.trace.drain()[0]?.at[0]?.reason).toBe(REASON.missing);
    if (sounds[0]) b.engine.addSample(BENCH_SHA(0), sounds[0]);
    b.engine.midi(0x90, 60, 100);
    expect(peak(b.play(600).left)).toBeGreaterThan(0.1);
  });

  test("a load that is too high thins voices out, released and quiet ones first, and lets them come again", () => {
    const b = bench(sounds, [{ sound: 0, loop: newLoop({ start: 100, end: 8900 }) }]);
    for (let k = 40; k < 80; k++) b.engine.midi(0x90, k, 100);
    b.play(500);
    for (let i = 0; i < 6; i++) {
      b.engine.relieve(0.95);
      checked(b.play(480).left);
    }
    const { voices, thinned } = b.engine.status();
    expect(voices).toBeLessThan(20);
    expect(thinned).toBe(40 - voices);
    b.engine.midi(0x90, 30, 100);
    b.play(480);
    expect(b.engine.status().voices).toBeLessThanOrEqual(voices);
    for (let i = 0; i < 60; i++) b.engine.relieve(0.2);
    for (let k = 81; k < 120; k++) b.engine.midi(0x90, k, 100);
    b.play(480);
    expect(b.engine.status().voices).toBeGreaterThan(40);
  });
});

test("what is no number never stands in the queue, nor does it reach a note", () => {
  const queue = new EventQueue();
  queue.push(Number.NaN, EVENT.soundingOn, 60);
  queue.push(5, EVENT.on, 61);
  expect([queue.size, queue.nextFrame, queue.dropped]).toEqual([1, 5, 1]);
  const b = bench(sounds, [{ sound: 0 }]);
  b.engine.rules = {
    start: (key, velocity, _time, emit) => {
      emit(key, velocity, Number.NaN, 0);
      emit(Number.NaN, velocity, 0, 0);
      emit(key, velocity, 0, Number.POSITIVE_INFINITY);
      return true;
    },
    end: () => true,
  };
  b.engine.midi(0x90, 60, 100);
  b.play(960);
  b.engine.rules = null;
  b.engine.midi(0x90, 62, 100);
  expect(peak(b.play(960).left)).toBeGreaterThan(0.1);
});
