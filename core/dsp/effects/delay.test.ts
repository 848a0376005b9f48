import { describe, expect, test } from "@jest/globals";
import { Delay } from "./delay";
import { click, decibels, peakOf, RATE, sine, steps, through } from "./effect-bench";

describe("delay", () => {
  test("echoes come at their time, each softer by the feedback, beside the sound as it was", () => {
    const delay = new Delay(RATE);
    delay.tune(0.5, 0.01, 0.5, 10, 22000, 0, false);
    const [left] = through(delay, click(2400));
    expect(left[0]).toBe(1);
    expect(left[480]).toBeCloseTo(0.5, 6);
    // The cuts take a little of each repeat, which they spread over its neighbours.
    const sum = (at: number) => left.subarray(at - 3, at + 30).reduce((a, b) => a + b, 0);
    expect(sum(960)).toBeCloseTo(0.25, 1);
    expect(Math.max(...left.subarray(1, 470).map(Math.abs))).toBe(0);
  });

  test("from side to side: left, right, left", () => {
    const delay = new Delay(RATE);
    delay.tune(1, 0.01, 0.8, 10, 22000, 0, true);
    const [left, right] = through(delay, click(2400), new Float32Array(2400));
    const loud = (x: Float32Array, at: number) => Math.max(...x.subarray(at - 2, at + 3).map(Math.abs));
    expect([loud(left, 480) > 0.3, loud(right, 480) > 0.3]).toEqual([true, false]);
    expect([loud(left, 960) > 0.2, loud(right, 960) > 0.2]).toEqual([false, true]);
    expect([loud(left, 1440) > 0.1, loud(right, 1440) > 0.1]).toEqual([true, false]);
  });

  test("the loop's cuts: what is above the high cut dies away sooner", () => {
    const left = (cut: number) => {
      const delay = new Delay(RATE);
      delay.tune(1, 0.005, 0.9, 10, cut, 0, false);
      const x = sine(9600, 6000);
      x.fill(0, 480);
      through(delay, x);
      return Math.max(...x.subarray(4800).map(Math.abs));
    };
    expect(left(1000)).toBeLessThan(left(20000) / 100);
  });

  test("another time takes over without a step", () => {
    const delay = new Delay(RATE);
    delay.dry = 0;
    delay.tune(1, 0.02, 0, 10, 22000, 0, false);
    const x = sine(RATE / 2, 200);
    through(delay, x.subarray(0, 12000), new Float32Array(12000));
    delay.tune(1, 0.0313, 0, 10, 22000, 0, false);
    const rest = x.subarray(12000);
    through(delay, rest, new Float32Array(rest.length));
    let step = 0;
    for (let i = 6000; i < x.length; i++) step = Math.max(step, Math.abs((x[i] as number) - (x[i - 1] as number)));
    expect(step).toBeLessThan(0.5 * 2 * Math.sin((Math.PI * 200) / RATE) * 1.1);
  });

  test("a driven loop stays bounded and leaves soft echoes alone", () => {
    const echo = (level: number) => {
      const delay = new Delay(RATE);
      delay.tune(1, 0.01, 0.9, 10, 22000, 24, false);
      const x = new Float32Array(1200);
      x[0] = level;
      return Math.max(...through(delay, x)[0].subarray(950, 1000).map(Math.abs)) / level;
    };
    expect(echo(1)).toBeLessThan(0.1);
    expect(echo(1e-4)).toBeGreaterThan(0.4);
  });
});

describe("delay that ducks", () => {
  test("a loud sound takes the echoes down by what it says; afterwards they are back", () => {
    const echoes = (duck: number) => {
      const delay = new Delay(RATE);
      delay.dry = 0;
      delay.tune(1, 0.1, 0.9, 10, 22000, 0, false, duck, 0.1);
      return through(delay, steps([0.5, 0.5, 0.5, 0, 0, 0, 0]))[0];
    };
    const [plain, ducked] = [echoes(0), echoes(18)];
    expect(decibels(peakOf(ducked, 2, 3) / peakOf(plain, 2, 3))).toBeCloseTo(-18, 0);
    expect(decibels(peakOf(ducked, 5, 6) / peakOf(plain, 5, 6))).toBeCloseTo(0, 1);
    expect(peakOf(plain, 5, 6)).toBeGreaterThan(0.2);
  });
});
