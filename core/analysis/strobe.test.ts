import { expect, test } from "@jest/globals";
import { strobe } from "./strobe";

const RATE = 44100;
const ROWS = 36;

/** Where the stripe of each column lies, in turns. */
function phases(hertz: number, reference: number): number[] {
  const { sin, PI, atan2, cos } = Math;
  const step = (2 * PI * hertz) / RATE;
  const x = Float32Array.from({ length: RATE }, (_, i) => 0.3 * sin(i * step));
  const image = strobe(x, RATE, reference, 20, ROWS);
  return Array.from({ length: 20 }, (_, c) => {
    let [re, im] = [0, 0];
    for (let r = 0; r < ROWS; r++) {
      const angle = (2 * PI * (r + 0.5)) / ROWS;
      re += (image[c * ROWS + r] as number) * cos(angle);
      im += (image[c * ROWS + r] as number) * sin(angle);
    }
    return atan2(im, re) / (2 * PI);
  });
}

/** Turns gone through from the first column to the last. */
function drift(found: number[]): number {
  let sum = 0;
  for (let i = 1; i < found.length; i++) {
    let by = (found[i] as number) - (found[i - 1] as number);
    by -= Math.round(by);
    sum += by;
  }
  return sum;
}

test("in tune the stripes stay level; off by 2 Hz they turn twice a second, sharp against flat", () => {
  expect(Math.abs(drift(phases(220, 220)))).toBeLessThan(0.02);
  const sharp = drift(phases(222, 220));
  const flat = drift(phases(218, 220));
  expect(Math.abs(sharp)).toBeCloseTo(1.9, 1);
  expect(flat).toBeCloseTo(-sharp, 1);
});
