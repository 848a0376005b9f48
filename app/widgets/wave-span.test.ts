import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { settleSpan, spanAround, zoomSpan } from "./wave-span";

const frames = fc.integer({ min: 100, max: 1e8 });

test("whatever is asked for, a span lies within the sound and isn't empty", () => {
  fc.assert(
    fc.property(
      frames,
      fc.double({ min: -1e9, max: 1e9, noNaN: true }),
      fc.double({ min: -1e9, max: 1e9, noNaN: true }),
      fc.double({ min: 0.001, max: 1000, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (n, from, to, factor, at) => {
        for (const span of [
          settleSpan({ from, to }, n),
          zoomSpan(settleSpan({ from, to }, n), factor, at, n),
          spanAround(from, Math.abs(to) + from, n),
        ]) {
          expect(span.from).toBeGreaterThanOrEqual(0);
          expect(span.to).toBeLessThanOrEqual(n + 1e-6);
          expect(span.to - span.from).toBeGreaterThan(31);
        }
      },
    ),
  );
});

test("the place under the pointer stays where it is while zooming", () => {
  const span = zoomSpan({ from: 1000, to: 5000 }, 2, 0.25, 100000);
  expect(span.from + 0.25 * (span.to - span.from)).toBeCloseTo(2000, 6);
  expect(span.to - span.from).toBe(2000);
});
