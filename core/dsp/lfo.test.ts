import { describe, expect, test } from "@jest/globals";
import { lfoAt } from "./lfo";

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
