import { expect, test } from "@jest/globals";
import { newSample, setParam, setRoom } from "../instrument";
import { renderSong } from "./offline";
import { compile } from "./plan";
import { BENCH_SHA, benchInstrument } from "./test-bench";

const RATE = 8000;
const ROOM = "e".repeat(64);

test("a recorded room sounds as its impulse says, from the first note on, and not once it is taken away", () => {
  const click = new Float32Array(400);
  click[0] = 0.5;
  const dry = benchInstrument([{ rate: RATE, channels: [click] }], [{ keyLow: 60, keyHigh: 60, root: 60 }]);
  const sample = newSample({ sha: ROOM, name: "shop", frames: 6000, rate: RATE, use: "impulse" });
  const wet = setParam(setRoom(sample).apply(dry), "effects/room/mix", 1).apply(setRoom(sample).apply(dry));
  expect(compile(wet)).toMatchObject({ impulses: [ROOM], samples: [BENCH_SHA(0)], convolution: { sample: ROOM } });
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
