import { describe, expect, test } from "@jest/globals";
import { Fft, seededRandom } from "../audio";
import { fadeWeights, likeness } from "./crossfade";
import { type FilterSettings, filterResponse } from "./filter-design";
import { lfoAt } from "./lfo";
import { Limiter } from "./limiter";
import { loopedSample } from "./loop-stream";
import { Reverb } from "./reverb";

const RATE = 48000;
const noise = (frames: number, seed: number, level = 1) => {
  const random = seededRandom(seed);
  return Float32Array.from({ length: frames }, () => (random() * 2 - 1) * level);
};

describe("LFO shapes", () => {
  test.each(["sine", "triangle", "saw", "square"] as const)(
    "%s stays within ±1, has no offset and repeats",
    (shape) => {
      let sum = 0;
      for (let i = 0; i < 1000; i++) {
        const x = lfoAt(shape, (i + 0.5) / 1000);
        sum += x;
        expect(Math.abs(x)).toBeLessThanOrEqual(1);
        expect(lfoAt(shape, (i + 0.5) / 1000 + 7)).toBeCloseTo(x, 9);
      }
      expect(sum / 1000).toBeCloseTo(0, 9);
    },
  );
});

describe("crossfade", () => {
  test("alike sounds keep their amplitude, unlike ones their power", () => {
    for (let place = 0; place <= 1; place += 0.05) {
      const [a, b] = fadeWeights(place, 1);
      expect(a + b).toBeCloseTo(1, 9);
      const [c, d] = fadeWeights(place, 0);
      expect(c * c + d * d).toBeCloseTo(1, 9);
    }
  });

  test("a loop without fade is the sample taken modulo its length", () => {
    const x = noise(500, 1);
    for (let t = 0; t < 3000; t++) {
      expect(loopedSample(x, { start: 100, end: 333, fade: 0, mode: "forward" }, 1, t)).toBe(
        x[t < 333 ? t : 100 + ((t - 100) % 233)],
      );
    }
  });

  test("the seam of a detuned tone steps by less than a tenth with a crossfade", () => {
    const x = Float32Array.from({ length: 5000 }, (_, i) => Math.sin(i * 0.0713));
    const step = (fade: number) => {
      const loop = { start: 1500, end: 4321, fade, mode: "forward" as const };
      const alike = fade > 0 ? likeness(x, loop.end - fade, loop.start - fade, fade) : 1;
      const usual = Math.abs((x[4320] as number) - (x[4319] as number));
      return Math.abs(Math.abs(loopedSample(x, loop, alike, 4321) - loopedSample(x, loop, alike, 4320)) - usual);
    };
    expect(step(800)).toBeLessThan(step(0) / 10);
  });
});

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

describe("reverb", () => {
  const impulse = (seconds: number, decay: number) => {
    const reverb = new Reverb(RATE);
    reverb.tune(1, 0.8, decay, 20000);
    const left = new Float32Array(seconds * RATE);
    const right = new Float32Array(seconds * RATE);
    left[0] = 1;
    right[0] = 1;
    reverb.process(left, right, 0, left.length);
    return left;
  };
  const power = (x: Float32Array, from: number, to: number) =>
    x.subarray(from * RATE, to * RATE).reduce((sum, v) => sum + v * v, 0);

  test("it dies away by 60 dB in its decay time", () => {
    const x = impulse(4, 2);
    const fall = 10 * Math.log10(power(x, 2.2, 2.7) / power(x, 0.7, 1.2));
    // 1.5 s of a 2 s decay: 45 dB.
    expect(fall).toBeGreaterThan(-50);
    expect(fall).toBeLessThan(-40);
  });

  test("any split of the block gives the same bits", () => {
    const input = noise(3000, 4, 0.3);
    const run = (cuts: number[]) => {
      const reverb = new Reverb(RATE);
      reverb.tune(0.5, 0.6, 1.5, 5000);
      const left = input.slice();
      const right = input.slice();
      let at = 0;
      for (const cut of [...cuts, 3000]) {
        reverb.process(left, right, at, cut);
        at = cut;
      }
      return left;
    };
    expect(run([1, 17, 999, 1000, 2048])).toEqual(run([]));
  });
});

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
