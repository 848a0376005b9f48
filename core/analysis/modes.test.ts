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
  ])("noise %d at %d Hz: frequency within a tenth of a cent, level within 0.2 dB, decay within 1 %%", (noise, rate) => {
    const found = findModes(hit(noise, rate), rate, { most: 5 });
    expect(found).toHaveLength(TRUTH.length);
    found.forEach((mode, i) => {
      const wanted = TRUTH[i] as (typeof TRUTH)[number];
      expect(Math.abs(1200 * Math.log2(mode.hertz / wanted.hertz))).toBeLessThan(0.1);
      expect(Math.abs(mode.level - wanted.level)).toBeLessThan(0.2);
      expect(Math.abs(mode.decay / wanted.decay - 1)).toBeLessThan(0.01);
    });
  });

  test("at most as many as asked for, the loudest; none in silence; short sounds don't hurt", () => {
    expect(findModes(hit(0), RATE, { most: 2 }).map((m) => Math.round(m.hertz))).toEqual([211, 584]);
    expect(findModes(new Float32Array(RATE), RATE, { most: 8 })).toEqual([]);
    for (const frames of [0, 1, 100, 3000])
      expect(findModes(hit(0).slice(4700, 4700 + frames), RATE, { most: 8 }).length).toBeLessThanOrEqual(8);
  });

  test("two that beat with each other are two", () => {
    const x = Float32Array.from({ length: RATE * 2 }, (_, i) => {
      const t = i / RATE;
      return (
        0.3 * (10 ** (-t * 1.5) * Math.sin(2 * Math.PI * 300 * t) + 10 ** (-t * 2) * Math.sin(2 * Math.PI * 302 * t))
      );
    });
    const found = findModes(x, RATE, { most: 8 });
    expect(found.map((m) => Math.round(m.hertz * 10) / 10)).toEqual([300, 302]);
    expect(found[0]?.decay).toBeCloseTo(2, 1);
    expect(found[1]?.decay).toBeCloseTo(1.5, 1);
  });

  test("only harmonics, where these are expected; nothing below the threshold", () => {
    const f = 211.3;
    const found = findModes(hit(0), RATE, { most: 8, harmonicsOf: f });
    // 1886.6 Hz is nearly its ninth, the others lie between.
    expect(found.map((m) => Math.round(m.hertz))).toEqual([211, 1887]);
    expect(findModes(hit(0), RATE, { most: 8, threshold: -12 }).map((m) => Math.round(m.hertz))).toEqual([
      211, 584, 1141,
    ]);
  });

  test("no mode in noise, in a constant, in a click, in a burst without an end; one after ten seconds is found", () => {
    const random = seededRandom(3);
    const noise = Float32Array.from({ length: RATE * 2 }, () => random() * 0.4 - 0.2);
    expect(findModes(noise, RATE, { most: 32 })).toEqual([]);
    expect(findModes(new Float32Array(RATE).fill(0.5), RATE, { most: 32 })).toEqual([]);
    const click = new Float32Array(960);
    click[10] = 1;
    expect(findModes(click, RATE, { most: 32 })).toEqual([]);
    expect(findModes(new Float32Array(RATE).fill(Number.NaN), RATE, { most: 32 })).toEqual([]);
    const late = new Float32Array(RATE * 12);
    late.set(hit(0).subarray(0, RATE * 2), RATE * 10);
    expect(findModes(late, RATE, { most: 2 }).map((m) => Math.round(m.hertz))).toEqual([211, 584]);
  });
});
