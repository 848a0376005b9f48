import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { logSpectrum, SPECTRUM_FROM, SPECTRUM_POINTS } from "./log-spectrum";
import { findPartials } from "./partial-tracks";

const RATE = 48000;
const tone = (parts: readonly (readonly [number, number, number])[], seconds = 2, noise = 0): Float32Array => {
  const random = seededRandom(9);
  return Float32Array.from({ length: seconds * RATE }, (_, i) => {
    const t = i / RATE;
    const sum = parts.reduce(
      (s, [hertz, level, decay]) =>
        s + 10 ** (level / 20 - (decay > 0 ? (3 * t) / decay : 0)) * Math.sin(2 * Math.PI * hertz * t + hertz),
      0,
    );
    return 0.2 * sum + noise * (random() * 2 - 1);
  });
};
const PARTS = [
  [220, 0, 0],
  [441.7, -6.5, 0],
  [1203.1, -20, 0],
  [5000, -45, 0],
] as const;

describe("partials of a sound", () => {
  test.each([0, 0.0005])("at a moment: frequencies within a cent, levels within 0.1 dB, noise %d", (noise) => {
    const found = findPartials(tone(PARTS, 2, noise), RATE, { most: 32, at: 1 });
    expect(found).toHaveLength(4);
    found.forEach(({ hertz, level, decay }, i) => {
      expect(Math.abs(1200 * Math.log2(hertz / (PARTS[i]?.[0] ?? 1)))).toBeLessThan(1);
      expect(level).toBeCloseTo(PARTS[i]?.[1] ?? 0, noise > 0 && i === 3 ? 0 : 1);
      expect(decay).toBe(0);
    });
  });

  test("over its time: each with its own decay, held ones held", () => {
    const found = findPartials(
      tone([
        [300, 0, 4],
        [910, -6, 1],
        [1500, -12, 0],
      ]),
      RATE,
      { most: 8, at: null },
    );
    expect(found.map((p) => Math.round(p.hertz))).toEqual([300, 910, 1500]);
    expect((found[0]?.decay ?? 0) / 4).toBeCloseTo(1, 1);
    expect(found[1]?.decay).toBeCloseTo(1, 1);
    expect(found[2]?.decay).toBe(0);
  });

  test("a glide is one partial; at most so many, the loudest; silence, a constant, a click, noise and nothing have an answer", () => {
    let phase = 0;
    const glide = Float32Array.from({ length: RATE }, (_, i) => {
      phase += (2 * Math.PI * (400 + (40 * i) / RATE)) / RATE;
      return 0.3 * Math.sin(phase);
    });
    expect(findPartials(glide, RATE, { most: 8, at: null, threshold: -20 })).toHaveLength(1);
    expect(findPartials(tone(PARTS), RATE, { most: 2, at: 0.5 }).map((p) => Math.round(p.hertz))).toEqual([220, 442]);
    for (const at of [0, 99, null]) {
      expect(findPartials(new Float32Array(RATE), RATE, { most: 8, at })).toEqual([]);
      expect(findPartials(new Float32Array(0), RATE, { most: 8, at })).toEqual([]);
      expect(findPartials(new Float32Array(RATE).fill(Number.NaN), RATE, { most: 8, at })).toEqual([]);
      const click = new Float32Array(960);
      click[5] = 1;
      expect(findPartials(click, RATE, { most: 8, at }).every((p) => Number.isFinite(p.hertz + p.level))).toBe(true);
      expect(findPartials(new Float32Array(RATE).fill(0.5), RATE, { most: 8, at })).toEqual([]);
    }
  });
});

describe("a spectrum by octaves", () => {
  test("a sine stands at its place, the loudest being 0 dB; silence is silent", () => {
    const levels = logSpectrum(tone([[640, 0, 0]]), RATE, 0);
    const top = levels.indexOf(Math.max(...levels));
    expect(Math.abs(top - Math.log2(640 / SPECTRUM_FROM) * SPECTRUM_POINTS)).toBeLessThanOrEqual(0.5);
    expect(levels[top]).toBeCloseTo(0, 5);
    expect(levels[top + SPECTRUM_POINTS]).toBeLessThan(-80);
    expect(logSpectrum(new Float32Array(0), RATE, 0).every((l) => l === -120)).toBe(true);
  });
});
