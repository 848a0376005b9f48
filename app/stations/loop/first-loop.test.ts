import { expect, test } from "@jest/globals";
import { newZone } from "../../../core/instrument";
import { firstLoop } from "./first-loop";

const RATE = 44100;

test("a tone is looped by whole periods from a rising zero", () => {
  const period = RATE / 220;
  const x = Float32Array.from(
    { length: 2 * RATE },
    (_, i) => Math.exp(-i / RATE) * Math.sin((2 * Math.PI * i) / period),
  );
  const loop = firstLoop(x, newZone({ id: "z", sample: "s", end: x.length }), RATE);
  const periods = (loop.end - loop.start) / period;
  expect(Math.abs(periods - Math.round(periods)) * period).toBeLessThan(1);
  expect(x[loop.start - 1]).toBeLessThan(0);
  expect(x[loop.start]).toBeGreaterThanOrEqual(0);
  expect(loop.fade).toBeLessThanOrEqual(loop.start);
});

test("a sound without pitch, and a very short one, still get a loop inside them", () => {
  for (const length of [90, 3000, 50000]) {
    const x = Float32Array.from({ length }, (_, i) => Math.sin(i * i * 0.37));
    const loop = firstLoop(x, newZone({ id: "z", sample: "s", end: length }), RATE);
    expect(loop.start).toBeGreaterThanOrEqual(0);
    expect(loop.end).toBeLessThanOrEqual(length);
    expect(loop.end - loop.start).toBeGreaterThanOrEqual(2);
  }
});
