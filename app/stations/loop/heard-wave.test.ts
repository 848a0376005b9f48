import { expect, test } from "@jest/globals";
import { loopedSample } from "../../../core/dsp";
import { newLoop } from "../../../core/instrument";
import { heardWave } from "./heard-wave";

/** A ramp: every frame has a value of its own. */
const x = Float32Array.from({ length: 10000 }, (_, i) => i / 10000);
const each = (frames: number) => frames;

test("forward: towards its end the sound becomes what lies before the start", () => {
  const loop = newLoop({ start: 3000, end: 7000, fade: 1000, law: "gain" });
  const [wave] = heardWave(x, loop, each);
  expect([wave?.from, wave?.to]).toEqual([6000, 7000]);
  expect(wave?.low[0]).toBeCloseTo(0.6, 3);
  expect(wave?.high[999]).toBeCloseTo(0.3, 2);
  for (let i = 0; i < 1000; i += 37) expect(wave?.low[i]).toBeCloseTo(loopedSample(x, loop, 1, 6000 + i), 6);
});

test("there and back: at both ends, on the way on which each is crossfaded", () => {
  const loop = newLoop({ start: 3000, end: 7000, fade: 1000, mode: "alternating" });
  const waves = heardWave(x, loop, each);
  expect(waves.map((w) => [w.from, w.to])).toEqual([
    [6000, 7000],
    [3000, 4000],
  ]);
  // Just after the turn it is as what lies beyond, then more and more as the loop itself.
  expect(waves[0]?.low[999]).toBeCloseTo(0.7, 2);
  expect(waves[0]?.low[0]).toBeCloseTo(0.6, 2);
  expect(waves[1]?.low[0]).toBeCloseTo(0.3, 2);
  expect(waves[1]?.low[999]).toBeCloseTo(0.4, 2);
});

test("backward: on the way down to its start it becomes what lies behind the end", () => {
  const loop = newLoop({ start: 3000, end: 7000, fade: 1000, mode: "backward", law: "gain" });
  const [wave] = heardWave(x, loop, each);
  expect([wave?.from, wave?.to]).toEqual([3000, 4000]);
  expect(wave?.low[999]).toBeCloseTo(0.4, 2);
  expect(wave?.low[1]).toBeCloseTo(0.7, 2);
});

test("fewer columns than frames hold the lowest and the highest of each; none where there is no room or no crossfade", () => {
  const loop = newLoop({ start: 3000, end: 7000, fade: 1000, law: "gain" });
  const [wave] = heardWave(x, loop, () => 10);
  expect(wave?.low).toHaveLength(10);
  for (let c = 0; c < 10; c++) expect(wave?.high[c]).toBeGreaterThan(wave?.low[c] as number);
  expect(heardWave(x, loop, () => 0)).toEqual([]);
  expect(heardWave(x, { ...loop, fade: 0 }, each)).toEqual([]);
});

test("a loop that is kept even is heard so all along", () => {
  const flat = { amount: 1, from: 0, step: 5000, levels: [0, 6, 6] };
  const [wave] = heardWave(x, newLoop({ start: 3000, end: 7000, flat }), each);
  expect([wave?.from, wave?.to]).toEqual([3000, 7000]);
  expect(wave?.low[0]).toBeCloseTo(0.3, 3);
  expect(wave?.low[3999]).toBeLessThan(0.61);
});
