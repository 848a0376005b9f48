import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { framesOf, monoOf, peakOf, sliceAudio } from "./audio";
import { seededRandom } from "./random";

const stereo = { rate: 8000, channels: [Float32Array.of(0.1, 0.2, -0.4, 0.3), Float32Array.of(0.3, -0.2, 0.4, 0.1)] };

describe("audio", () => {
  test("cutting then joining loses nothing, wherever it is cut", () => {
    fc.assert(
      fc.property(fc.integer({ min: -2, max: 8 }), (at) => {
        const cut = Math.max(0, at);
        const head = sliceAudio(stereo, 0, at);
        const tail = sliceAudio(stereo, at, 4);
        expect(framesOf(head) + framesOf(tail)).toBe(4);
        expect([...(head.channels[1] ?? []), ...(tail.channels[1] ?? [])]).toEqual([...(stereo.channels[1] ?? [])]);
        expect(framesOf(head)).toBe(Math.min(cut, 4));
      }),
    );
  });

  test("a slice is a copy", () => {
    const cut = sliceAudio(stereo, 1, 3);
    (cut.channels[0] as Float32Array)[0] = 9;
    expect(stereo.channels[0]?.[1]).toBeCloseTo(0.2, 6);
  });

  test("mono is the mean; one channel is itself; none is nothing", () => {
    const mono = monoOf(stereo);
    [0.2, 0, 0, 0.2].forEach((x, i) => {
      expect(mono[i]).toBeCloseTo(x, 6);
    });
    expect(stereo.channels[0]?.[0]).toBeCloseTo(0.1, 6);
    const one = { rate: 8000, channels: [Float32Array.of(1)] };
    expect(monoOf(one)).toBe(one.channels[0]);
    expect(monoOf({ rate: 8000, channels: [] })).toHaveLength(0);
  });

  test("the peak is the largest magnitude of all channels within the range", () => {
    expect(peakOf(stereo)).toBeCloseTo(20 * Math.log10(0.4), 5);
    expect(peakOf(stereo, 0, 1)).toBeCloseTo(20 * Math.log10(0.3), 5);
    expect(peakOf(stereo, 4, 4)).toBe(Number.NEGATIVE_INFINITY);
  });
});

describe("seeded randomness", () => {
  test("is the same for a seed, another for another, even, and within [0, 1)", () => {
    const a = seededRandom(7);
    const b = seededRandom(7);
    const c = seededRandom(8);
    const bins = new Array(10).fill(0);
    let same = 0;
    for (let i = 0; i < 20000; i++) {
      const x = a();
      expect(x).toBe(b());
      if (x === c()) same++;
      bins[Math.floor(x * 10)]++;
    }
    expect(same).toBeLessThan(5);
    for (const count of bins) expect(Math.abs(count - 2000)).toBeLessThan(250);
  });
});
