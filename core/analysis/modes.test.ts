import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { findModes } from "./modes";

const RATE = 48000;
const TRUTH = [
  { hertz: 211.3, level: 0, decay: 2 },
  { hertz: 583.9, level: -6, decay: 1.2 },
  { hertz: 1141.2, level: -10, decay: 0.7 },
  { hertz: 1886.6, level: -14, decay: 0.5 },
  { hertz: 2818.5, level: -20, decay: 0.35 },
];

/** A hit after some silence: sines that die away, in noise so far below the loudest. */
function hit(noise: number, rate = RATE): Float32Array {
  const random = seededRandom(5);
  const x = Float32Array.from({ length: rate * 3 }, () => (random() * 2 - 1) * noise);
  const at = Math.round(rate * 0.1);
  for (const { hertz, level, decay } of TRUTH) {
    for (let i = at; i < x.length; i++) {
      const t = (i - at) / rate;
      x[i] = (x[i] as number) + 0.3 * 10 ** (level / 20 - (3 * t) / decay) * Math.sin(2 * Math.PI * hertz * t + hertz);
    }
  }
  return x;
}

describe("modes found in a hit", () => {
  test.each([
    [0, RATE],
    [0.0003, RATE],
    [0, 44100],
  ])("noise %d at %d Hz: frequency within 3 cents, level within 1 dB, decay within a tenth", (noise, rate) => {
    const found = findModes(hit(noise, rate), rate, 5);
    expect(found).toHaveLength(TRUTH.length);
    found.forEach((mode, i) => {
      const wanted = TRUTH[i] as (typeof TRUTH)[number];
      expect(Math.abs(1200 * Math.log2(mode.hertz / wanted.hertz))).toBeLessThan(3);
      expect(Math.abs(mode.level - wanted.level)).toBeLessThan(1);
      expect(Math.abs(mode.decay / wanted.decay - 1)).toBeLessThan(0.1);
    });
  });

  test("at most as many as asked for, the loudest; none in silence; short sounds don't hurt", () => {
    expect(findModes(hit(0), RATE, 2).map((m) => Math.round(m.hertz))).toEqual([211, 584]);
    expect(findModes(new Float32Array(RATE), RATE, 8)).toEqual([]);
    for (const frames of [0, 1, 100, 3000])
      expect(findModes(hit(0).slice(4700, 4700 + frames), RATE, 8).length).toBeLessThanOrEqual(8);
  });
});
