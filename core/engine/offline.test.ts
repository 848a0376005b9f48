import { expect, test } from "@jest/globals";
import { setParam } from "../instrument";
import { compile } from "./compile";
import { renderSong } from "./offline";
import { BENCH_SHA, benchInstrument, newLoop, peak, RATE, sine } from "./test-bench";

const tone = sine(RATE, 220, 0.3);
const looped = { root: 60, loop: newLoop({ start: 1000, end: RATE - 1000, fade: 500 }) };
/** A note of a tenth of a second with a release of so many seconds. */
const song = (release: number, tail: number | undefined) =>
  renderSong({
    plan: compile(
      setParam(benchInstrument([tone], [looped]), "layers/main/amp/release", release).apply(
        benchInstrument([tone], [looped]),
      ),
    ),
    samples: new Map([[BENCH_SHA(0), tone]]),
    events: [
      { seconds: 0, status: 0x90, data1: 60, data2: 100 },
      { seconds: 0.1, status: 0x80, data1: 60, data2: 0 },
    ],
    rate: RATE,
    seconds: 0.2,
    tail,
    tempo: 96,
  }).channels[0] as Float32Array;

test("what still sounds is rendered to its end, and nothing but silence is left away", () => {
  const plain = song(2, undefined);
  expect(plain.length).toBe(0.2 * RATE);
  const whole = song(2, 60);
  expect(whole.length).toBeGreaterThan(0.9 * RATE);
  expect(whole.length).toBeLessThan(5 * RATE);
  expect(peak(whole.subarray(whole.length - 256))).toBeLessThan(10 ** (-60 / 20));
  expect(whole.subarray(0, plain.length)).toEqual(plain);
});

test("no longer than it may become, and not longer than it was asked for where nothing sounds", () => {
  expect(song(20, 0.5).length).toBe(Math.ceil(0.7 * RATE));
  expect(song(0.01, 60).length).toBe(0.2 * RATE);
});
