import { expect, test } from "@jest/globals";
import { newLoop } from "../../../core/instrument";
import { levelTrack, smoothTrack } from "../../../core/looping";
import { levelCourse } from "./level-course";

const RATE = 44100;
const trackOf = (x: Float32Array) => smoothTrack(levelTrack([x], RATE, 0, x.length));
const sound = (levelAt: (t: number) => number) =>
  Float32Array.from({ length: 2 * RATE }, (_, i) => levelAt(i / RATE) * Math.sin(i * 0.1));

test("a steady sound has no pulse, however its loop is crossfaded", () => {
  const x = sound(() => 0.4);
  for (const law of ["gain", "match"] as const) {
    // A whole number of cycles: both sides of the crossfade are the same.
    const loop = newLoop({ start: 30000, end: 30000 + Math.round((2 * Math.PI * 200) / 0.1), fade: 5000, law });
    expect(levelCourse(trackOf(x), x, RATE, 0, loop, 12, 600).pulse).toBeLessThan(0.2);
  }
});

test("a sound that falls by 12 dB in its loop pulses by 12 dB, and stays where the loop is", () => {
  const x = sound((t) => 10 ** ((-12 * t) / 20));
  const loop = newLoop({ start: 22050, end: 22050 + 44100 });
  const { levels, pulse } = levelCourse(trackOf(x), x, RATE, 0, loop, 12, 1200);
  expect(pulse).toBeCloseTo(12, 0);
  expect(Math.max(...levels.slice(200))).toBeCloseTo(-6, 0);
  expect(Math.min(...levels)).toBeGreaterThan(-19);
});
