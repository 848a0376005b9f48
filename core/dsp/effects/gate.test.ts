import { describe, expect, test } from "@jest/globals";
import { CONTROL } from "../kernels/layout";
import { decibels, peakOf, RATE, steps, through } from "./effect-bench";
import { Gate } from "./gate";

describe("gate", () => {
  const gate = (range = -40, hold = 0.05) => {
    const made = new Gate(RATE);
    made.tune(-30, 10, range, 0.001, hold, 0.01, range <= -80);
    return made;
  };

  test("what is above the threshold passes untouched, what is below is taken down by what it says", () => {
    const [left] = through(gate(), steps([0.01, 0.01, 0.5, 0.5, 0.5, 0.01, 0.01, 0.01]));
    expect(decibels(peakOf(left, 1, 2) / 0.01)).toBeCloseTo(-40, 1);
    expect(peakOf(left, 3, 5)).toBeCloseTo(0.5, 4);
    expect(decibels(peakOf(left, 7, 8) / 0.01)).toBeCloseTo(-40, 1);
    const [silent] = through(gate(-80), steps([0.5, 0.01, 0.01, 0.01]));
    expect(peakOf(silent, 3, 4)).toBe(0);
  });

  test("between the level at which it closes and that at which it opens it stays as it is, and a low tone doesn't let it flutter", () => {
    // −36 dB: above where it closes, below where it opens.
    const [left] = through(gate(), steps([0.0158, 0.0158, 0.5, 0.0158, 0.0158], 40));
    expect(decibels(peakOf(left, 1, 2) / 0.0158)).toBeCloseTo(-40, 1);
    expect(peakOf(left, 4, 5)).toBeCloseTo(0.0158, 5);
  });

  test("it stays open for as long as it says", () => {
    const [left] = through(gate(-40, 0.25), steps([0.5, 0.005, 0.005, 0.005, 0.005, 0.005]));
    expect(peakOf(left, 2, 3)).toBeCloseTo(0.005, 5);
    expect(decibels(peakOf(left, 5, 6) / 0.005)).toBeCloseTo(-40, 1);
  });

  test("it goes by another sound where it is given one", () => {
    const made = gate();
    const sound = steps([0.5, 0.5, 0.5, 0.5]);
    const key = steps([0, 0, 0.5, 0.5]);
    for (let at = 0; at < sound.length; at += CONTROL) {
      made.listen(key, key, at);
      made.process(sound, sound.slice(), at, at + CONTROL);
    }
    expect(decibels(peakOf(sound, 1, 2) / 0.5)).toBeCloseTo(-40, 1);
    expect(peakOf(sound, 3, 4)).toBeCloseTo(0.5, 4);
  });
});
