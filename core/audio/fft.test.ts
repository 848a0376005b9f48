import { describe, expect, test } from "@jest/globals";
import { Fft, seededRandom } from ".";

const noise = (frames: number, seed: number, level = 1) => {
  const random = seededRandom(seed);
  return Float32Array.from({ length: frames }, () => (random() * 2 - 1) * level);
};

describe("FFT", () => {
  test("it agrees with the sum that defines it", () => {
    const re = Float64Array.from(noise(16, 1));
    const im = Float64Array.from(noise(16, 2));
    const expected = Array.from({ length: 16 }, (_, k) => {
      let a = 0;
      let b = 0;
      for (let n = 0; n < 16; n++) {
        const w = (-2 * Math.PI * k * n) / 16;
        a += (re[n] as number) * Math.cos(w) - (im[n] as number) * Math.sin(w);
        b += (re[n] as number) * Math.sin(w) + (im[n] as number) * Math.cos(w);
      }
      return [a, b];
    });
    new Fft(16).forward(re, im);
    expected.forEach(([a, b], k) => {
      expect(re[k]).toBeCloseTo(a as number, 9);
      expect(im[k]).toBeCloseTo(b as number, 9);
    });
    expect(() => new Fft(12)).toThrow(RangeError);
  });
});
