import { describe, expect, test } from "@jest/globals";
import { integratedLoudness, loudnessOf } from "./loudness";

describe("loudness", () => {
  test("a 997 Hz sine at full scale is −3.01 LUFS in one channel (BS.1770)", () => {
    for (const rate of [44100, 48000, 96000]) {
      const x = Float32Array.from({ length: rate }, (_, i) => Math.sin((2 * Math.PI * 997 * i) / rate));
      expect(loudnessOf({ rate, channels: [x] })).toBeCloseTo(-3.01, 1);
      expect(loudnessOf({ rate, channels: [x, x] })).toBeCloseTo(0, 1);
    }
    expect(loudnessOf({ rate: 48000, channels: [new Float32Array(100)] })).toBe(-120);
  });

  test("silence between and soft parts don't count for the integrated loudness (both gates)", () => {
    const rate = 48000;
    const tone = (level: number) =>
      Float32Array.from({ length: rate * 2 }, (_, i) => level * Math.sin((2 * Math.PI * 997 * i) / rate));
    const joined = new Float32Array(rate * 8);
    joined.set(tone(0.1), 0);
    joined.set(tone(0.1), rate * 2);
    joined.set(tone(0.001), rate * 6);
    expect(integratedLoudness({ rate, channels: [joined] })).toBeCloseTo(-23.0, 0);
    expect(integratedLoudness({ rate, channels: [tone(0.1)] })).toBeCloseTo(-23.0, 1);
    expect(integratedLoudness({ rate, channels: [new Float32Array(rate)] })).toBe(-120);
  });
});
