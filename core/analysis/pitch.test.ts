import { describe, expect, test } from "@jest/globals";
import { hertzOf, seededRandom } from "../audio";
import { PitchFinder } from "./pitch";
import { pluck, RATE } from "./test-sounds";

describe("pitch", () => {
  test("plucked tones from 41 to 2000 Hz at −40 dB of noise: within 5 cents, octaves right", () => {
    const finder = new PitchFinder(RATE);
    let close = 0;
    let octaveRight = 0;
    let all = 0;
    for (let note = 28; note <= 95; note += 2.37) {
      const found = finder.find(pluck(note, 0.6, 0.01 * 0.4, Math.round(note * 100))).note ?? 0;
      all++;
      if (Math.abs(found - note) < 0.05) close++;
      if (Math.abs(found - note) < 1) octaveRight++;
    }
    expect(close / all).toBeGreaterThanOrEqual(0.95);
    expect(octaveRight / all).toBeGreaterThanOrEqual(0.99);
  });

  test("a steady sine is measured within a cent, and surely", () => {
    const finder = new PitchFinder(RATE);
    for (const hertz of [55, 220.5, 997, 1760]) {
      const x = Float32Array.from({ length: RATE }, (_, i) => 0.3 * Math.sin((2 * Math.PI * hertz * i) / RATE));
      const { note, confidence } = finder.find(x);
      expect(Math.abs(1200 * Math.log2(hertzOf(note ?? 0) / hertz))).toBeLessThan(1);
      expect(confidence).toBeGreaterThan(0.95);
    }
  });

  test("noise and silence have no sure pitch; a stub of sound has none", () => {
    const random = seededRandom(9);
    const finder = new PitchFinder(RATE);
    expect(finder.find(Float32Array.from({ length: RATE }, () => random() - 0.5)).confidence).toBeLessThan(0.4);
    expect(finder.find(new Float32Array(RATE))).toEqual({ note: null, confidence: 0, clarity: 0, wander: 0 });
    expect(finder.find(new Float32Array(50).fill(0.1))).toEqual({ note: null, confidence: 0, clarity: 0, wander: 0 });
    expect(() => new PitchFinder(RATE, 50, 40000)).toThrow(RangeError);
  });
});
