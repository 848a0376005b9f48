import { describe, expect, test } from "@jest/globals";
import { amplitude, RATE, sine, through } from "./effect-bench";
import { SweptDelay } from "./swept-delay";

describe("chorus and flanger", () => {
  test("without a swing it is a plain copy: the comb's response", () => {
    const effect = new SweptDelay(RATE);
    effect.tune(0.5, 0.001, 0, 1, 0, 0);
    // Half and half with a copy 48 frames late: |cos(π f 48/RATE)|.
    for (const hertz of [100, 400, 1300]) {
      const [left] = through(effect, sine(14400, hertz));
      expect(amplitude(left, hertz)).toBeCloseTo(0.5 * Math.abs(Math.cos((Math.PI * hertz * 48) / RATE)), 3);
    }
  });

  test("the pitch of the copy swings by what the sweep's slope says", () => {
    const effect = new SweptDelay(RATE);
    const [depth, rate] = [0.002, 2];
    effect.tune(1, 0.01, depth, rate, 0, 0);
    const [left] = through(effect, sine(RATE, 1000));
    const times: number[] = [];
    for (let i = 4801; i < left.length; i++) {
      const [a, b] = [left[i - 1] as number, left[i] as number];
      if (a < 0 && b >= 0) times.push(i - b / (b - a));
    }
    const periods = times.slice(1).map((t, i) => t - (times[i] as number));
    const fastest = RATE / Math.min(...periods) / 1000;
    expect(fastest - 1).toBeCloseTo(2 * Math.PI * rate * depth, 2);
  });
});
