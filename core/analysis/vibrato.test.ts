import { expect, test } from "@jest/globals";
import { hertzOf, seededRandom } from "../audio";
import { PitchFinder } from "./pitch";
import { centreOf } from "./vibrato";

const RATE = 44100;

test("the mean over whole periods, wherever a track begins and ends; without a swing the mean of all", () => {
  for (let n = 0; n < 40; n++) {
    const length = 40 + n;
    const track = Array.from({ length }, (_, i) => 60 + 0.5 * Math.sin(0.42 * i + n));
    expect(Math.abs(centreOf(track, 0.0125) - 60)).toBeLessThan(0.02);
  }
  expect(centreOf([60, 60, 60, 60, 61, 61, 61, 61, 61], 0.0125)).toBeCloseTo(60 + 5 / 9, 9);
  expect(centreOf([60], 0.0125)).toBe(60);
  expect(centreOf([60, 60, 60, 60, 60, 60, 60, 60], 0.0125)).toBe(60);
});

test("tones with vibrato are heard at the pitch about which they swing, within 5 cents", () => {
  const random = seededRandom(5);
  const finder = new PitchFinder(RATE);
  let near = 0;
  const count = 60;
  for (let n = 0; n < count; n++) {
    const note = 43 + 36 * random();
    const [cents, speed, phase] = [20 + 40 * random(), 4.5 + 2.5 * random(), 6.28 * random()];
    let turns = 0;
    const x = Float32Array.from({ length: RATE * 1.2 }, (_, i) => {
      const bent = note + (cents / 100) * Math.sin((2 * Math.PI * speed * i) / RATE + phase);
      turns += hertzOf(bent) / RATE;
      const gain = Math.min(1, i / 2000);
      return gain * (0.3 * Math.sin(2 * Math.PI * turns) + 0.15 * Math.sin(4 * Math.PI * turns) + 0.001 * random());
    });
    if (Math.abs((finder.find(x).note ?? 0) - note) < 0.05) near++;
  }
  expect(near).toBeGreaterThanOrEqual(0.95 * count);
});
