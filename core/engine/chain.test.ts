import { expect, test } from "@jest/globals";
import { addUnit, newSample, newUnit, removeUnit, setParam, setRoom, together } from "../instrument";
import { compile } from "./compile";
import { renderSong } from "./offline";
import { BENCH_SHA, bench, benchInstrument, RATE as LIVE, peak, sine, steepest } from "./test-bench";

const RATE = 8000;
const ROOM = "e".repeat(64);

test("a recorded room sounds as its impulse says, from the first note on, and not once it is taken away", () => {
  const click = new Float32Array(400);
  click[0] = 0.5;
  const dry = benchInstrument([{ rate: RATE, channels: [click] }], [{ keyLow: 60, keyHigh: 60, root: 60 }]);
  const sample = newSample({ sha: ROOM, name: "shop", frames: 6000, rate: RATE, use: "impulse" });
  const wet = setParam(setRoom(sample).apply(dry), "effects/room/mix", 1).apply(setRoom(sample).apply(dry));
  expect(compile(wet)).toMatchObject({ impulses: [ROOM], samples: [BENCH_SHA(0)] });
  const impulse = new Float32Array(6000);
  impulse[1000] = 0.5;
  impulse[5500] = -0.25;
  const render = (instrument: typeof dry) =>
    renderSong({
      plan: compile(instrument),
      samples: new Map([
        [BENCH_SHA(0), { rate: RATE, channels: [click] }],
        [ROOM, { rate: RATE, channels: [impulse] }],
      ]),
      events: [{ seconds: 0.1, status: 0x90, data1: 60, data2: 127 }],
      rate: RATE,
      seconds: 1.2,
      tempo: 120,
    }).channels[0] as Float32Array;
  const plain = render(dry);
  const room = render(wet);
  const at = plain.findIndex((x) => Math.abs(x) > 0.1);
  for (const [later, level] of [
    [0, 1],
    [1000, 0.5],
    [5500, -0.25],
  ] as const) {
    for (let i = 0; i < 3; i++) expect(room[at + later + i]).toBeCloseTo((plain[at + i] as number) * level, 3);
  }
  expect(Math.max(...room.slice(at + 1100, at + 5400).map(Math.abs))).toBeLessThan(1e-3);
  expect(render({ ...wet, effects: dry.effects })).toEqual(plain);
});

test("an impulse that comes while nothing is played is ready by the first note", () => {
  const click = new Float32Array(400);
  click[0] = 0.5;
  const sample = newSample({ sha: ROOM, name: "shop", frames: LIVE, rate: LIVE, use: "impulse" });
  const b = bench([{ rate: LIVE, channels: [click] }], [{ keyLow: 60, keyHigh: 60, root: 60 }], (doc) => {
    const room = setRoom(sample).apply(doc);
    return setParam(room, "effects/room/mix", 1).apply(room);
  });
  b.play(480);
  const impulse = new Float32Array(LIVE);
  impulse[LIVE - 1000] = 0.5;
  b.engine.addImpulse(ROOM, { rate: LIVE, channels: [impulse] });
  b.play(LIVE / 4);
  b.engine.midi(0x90, 60, 127);
  const { left } = b.play(LIVE + 2400);
  const at = left.findIndex((x) => Math.abs(x) > 0.1);
  expect(at).toBeGreaterThanOrEqual(0);
  expect(left[at + LIVE - 1000]).toBeCloseTo((left[at] as number) * 0.5, 3);
});

test.each(["reverb", "room"] as const)(
  "a %s that is taken away dies away without a step, and comes again without what it held",
  (which) => {
    const impulse = Float32Array.from({ length: LIVE }, (_, i) => Math.sin(i / 20) * Math.exp(-i / 20000) * 0.02);
    const sample = newSample({ sha: ROOM, name: "shop", frames: LIVE, rate: LIVE, use: "impulse" });
    const b = bench([sine(LIVE / 2, 220, 0.3)], [{ root: 60 }], (doc) => {
      const room = which === "room" ? setRoom(sample) : addUnit("effects", newUnit("reverb", "reverb"));
      const whole = room.apply(doc);
      return together("", [
        setParam(whole, `effects/${which}/mix`, 1),
        setParam(whole, "layers/main/amp/release", 0.01),
      ]).apply(whole);
    });
    if (which === "room") b.engine.addImpulse(ROOM, { rate: LIVE, channels: [impulse] });
    b.engine.midi(0x90, 60, 100);
    b.play(LIVE / 4);
    b.engine.midi(0x80, 60, 0);
    const tail = b.play(LIVE / 8).left;
    expect(peak(tail.subarray(-2000))).toBeGreaterThan(0.01);
    b.change(removeUnit("effects", which).apply(b.instrument));
    const after = b.play(LIVE / 4).left;
    expect(steepest(after)).toBeLessThan(steepest(tail.subarray(-2000)) * 1.2);
    expect(Math.abs((after[0] as number) - (tail.at(-1) as number))).toBeLessThan(steepest(tail.subarray(-2000)) * 1.2);
    expect(peak(after.subarray(-2000))).toBe(0);
    const bare = removeUnit("effects", which).apply(b.instrument);
    const again =
      which === "room"
        ? b.instrument
        : addUnit("effects", {
            ...newUnit("reverb", "reverb"),
            params: { ...newUnit("reverb", "reverb").params, mix: 1 },
          }).apply(bare);
    b.change(again);
    if (which === "room") b.engine.addImpulse(ROOM, { rate: LIVE, channels: [impulse] });
    expect(peak(b.play(LIVE / 4).left)).toBeLessThan(1e-9);
  },
);
