import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { fadeWeights, likeness } from "./crossfade";
import { loopedSample } from "./loop-stream";

const noise = (frames: number, seed: number, level = 1) => {
  const random = seededRandom(seed);
  return Float32Array.from({ length: frames }, () => (random() * 2 - 1) * level);
};

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
