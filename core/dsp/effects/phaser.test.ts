import { expect, test } from "@jest/globals";
import { amplitude, decibels, RATE, sine, through } from "./effect-bench";
import { Phaser } from "./phaser";

test("a phaser at rest has as many notches as half its stages, where its all-passes turn by half a circle", () => {
  const phaser = new Phaser(RATE);
  phaser.tune(0.5, 4, 1000, 0, 1, 0, 0);
  // Four stages: each turns by 45° (and by 135°) where tan(πf/RATE) = tan(π/8)·g (and tan(3π/8)·g).
  const g = Math.tan((Math.PI * 1000) / RATE);
  for (const angle of [Math.PI / 8, (3 * Math.PI) / 8]) {
    const notch = (RATE / Math.PI) * Math.atan(g * Math.tan(angle));
    const [left] = through(phaser, sine(19200, notch));
    expect(decibels(amplitude(left, notch, 14400) / 0.5)).toBeLessThan(-40);
  }
  const [left] = through(phaser, sine(19200, 1000));
  expect(decibels(amplitude(left, 1000, 14400) / 0.5)).toBeCloseTo(0, 1);
});
