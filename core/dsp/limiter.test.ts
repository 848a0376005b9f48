import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { Limiter } from "./limiter";

const RATE = 48000;
const noise = (frames: number, seed: number, level = 1) => {
  const random = seededRandom(seed);
  return Float32Array.from({ length: frames }, () => (random() * 2 - 1) * level);
};

describe("limiter", () => {
  test("nothing leaves above the ceiling, and quiet sound is untouched", () => {
    const loud = noise(20000, 7, 6);
    const other = noise(20000, 8, 3);
    new Limiter(RATE).process(loud, other, 0, 20000);
    expect(Math.max(...loud.map(Math.abs))).toBeLessThanOrEqual(Math.fround(Limiter.CEILING) + 1e-7);
    const quiet = noise(2000, 9, 0.9);
    const copy = quiet.slice();
    new Limiter(RATE).process(quiet, quiet.slice(), 0, 2000);
    expect(quiet).toEqual(copy);
  });
});
