import { describe, expect, test } from "@jest/globals";
import { type FilterSettings, filterResponse } from "./filter-design";

describe("filter response", () => {
  test("3 dB at the cutoff for a Butterworth damping, 12 dB per octave beyond, mirror images of each other", () => {
    // Resonance at which k = √2.
    const flat = Math.log(Math.SQRT2 / 1.6) / Math.log(0.0125);
    const db = (f: number, mode: "low" | "high") =>
      20 *
      Math.log10(
        filterResponse({ mode, slope: "12", character: "clean", cutoff: 1000, resonance: flat, lift: 0 }, 768000, f),
      );
    expect(db(1000, "low")).toBeCloseTo(-3.01, 2);
    expect(db(16000, "low") - db(8000, "low")).toBeCloseTo(-12.04, 1);
    expect(db(62.5, "high") - db(125, "high")).toBeCloseTo(-12.04, 1);
    expect(db(500, "low")).toBeCloseTo(db(2000, "high"), 2);
    const band = { mode: "band", slope: "12", character: "clean", cutoff: 1000, resonance: 0.5, lift: 0 } as const;
    expect(filterResponse(band, 48000, 1000)).toBeCloseTo(1, 9);
  });

  const response = (over: Partial<FilterSettings>, f: number) =>
    20 *
    Math.log10(
      filterResponse(
        { mode: "peak", slope: "12", character: "clean", cutoff: 1000, resonance: 0.3, lift: 9, ...over },
        192000,
        f,
      ),
    );

  test("a shelf lifts one side by what it says, half of it at the cutoff; one that takes away undoes one that adds", () => {
    for (const lift of [-24, -6, 3, 24]) {
      for (const character of ["clean", "ladder"] as const) {
        const low = (f: number) => response({ mode: "lowShelf", character, lift, resonance: 0 }, f);
        const high = (f: number) => response({ mode: "highShelf", character, lift, resonance: 0 }, f);
        expect(low(0.5)).toBeCloseTo(lift, 1);
        expect(low(95000)).toBeCloseTo(0, 1);
        expect(high(0.5)).toBeCloseTo(0, 1);
        expect(high(95000)).toBeCloseTo(lift, 1);
        // The ladder's weights are for its poles, its shelf has one of them.
        expect(Math.abs(low(1000) - lift / 2)).toBeLessThan(0.1);
        expect(Math.abs(high(1000) - lift / 2)).toBeLessThan(0.1);
      }
    }
    for (const f of [200, 900, 1000, 1500, 20000])
      expect(response({ lift: 12 }, f) + response({ lift: -12 }, f)).toBeCloseTo(0, 6);
    expect(response({ lift: -12 }, 1000)).toBeCloseTo(-12, 6);
  });

  test("the emphasis is as high at every cutoff; one that rings as long everywhere is as wide in hertz", () => {
    for (const character of ["clean", "ladder"] as const) {
      const heights = [60, 260, 1000, 4000, 15000].map((cutoff) => {
        const over = { mode: "low", slope: "24", character, cutoff, resonance: 0.8 } as const;
        return Math.max(
          ...Array.from({ length: 400 }, (_, i) => response(over, Math.min(95000, cutoff * 2 ** ((i - 200) / 200)))),
        );
      });
      for (const height of heights) expect(Math.abs(height - (heights[0] as number))).toBeLessThan(0.1);
    }
    // Where a band pass falls by 3 dB, above less below.
    const width = (cutoff: number) => {
      const over = { mode: "band", cutoff, resonance: 0.6, steady: true } as const;
      const edge = (way: number) => {
        let hertz = 0;
        while (response(over, cutoff + way * hertz) > -3.0103 && hertz < cutoff) hertz += 0.05;
        return hertz;
      };
      return edge(1) + edge(-1);
    };
    const middle = width(261.6);
    for (const cutoff of [130, 500, 1200]) expect(Math.abs(width(cutoff) / middle - 1)).toBeLessThan(0.02);
  });
});
