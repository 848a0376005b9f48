import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { spreadRoots } from "./spread";

describe("spread", () => {
  const roots = fc.uniqueArray(fc.integer({ min: 0, max: 127 }), { minLength: 1, maxLength: 40 });

  test.each(["nearest", "down", "up"] as const)(
    "%s: no key twice, none left out between the roots, each root on its own",
    (mode) => {
      fc.assert(
        fc.property(roots, fc.nat(60), fc.integer({ min: 61, max: 127 }), (all, low, high) => {
          const ranges = spreadRoots(all, { mode, low, high });
          const covered = new Map<number, number>();
          for (const [root, range] of ranges) {
            expect(range.low).toBeLessThanOrEqual(root);
            expect(range.high).toBeGreaterThanOrEqual(root);
            for (let key = range.low; key <= range.high; key++) {
              expect(covered.has(key)).toBe(false);
              covered.set(key, root);
            }
          }
          if (ranges.size > 0) expect(covered.size).toBe(high - low + 1);
          for (const key of covered.keys()) expect(key >= low && key <= high).toBe(true);
        }),
      );
    },
  );

  test("kept to some semitones and without reaching outward: never further, never twice, each root on its own", () => {
    fc.assert(
      fc.property(
        roots,
        fc.constantFrom("nearest" as const, "down" as const, "up" as const),
        fc.nat(24),
        fc.boolean(),
        (all, mode, most, outer) => {
          const ranges = spreadRoots(all, { mode, low: 10, high: 110, most, outer });
          const covered = new Set<number>();
          for (const [root, range] of ranges) {
            expect(range.low <= root && root <= range.high).toBe(true);
            expect(root - range.low <= most && range.high - root <= most).toBe(true);
            for (let key = range.low; key <= range.high; key++) {
              expect(covered.has(key)).toBe(false);
              covered.add(key);
            }
          }
          // Between neighbours no further apart than both may reach nothing is left out.
          const inside = [...ranges.keys()].sort((a, b) => a - b);
          for (let i = 1; i < inside.length; i++) {
            const [from, to] = [inside[i - 1] as number, inside[i] as number];
            if (to - from > most) continue;
            for (let key = from; key <= to; key++) expect(covered.has(key)).toBe(true);
          }
        },
      ),
    );
    const kept = spreadRoots([50, 54, 60], { mode: "nearest", low: 0, high: 127, outer: false });
    expect([...kept.values()].map((r) => [r.low, r.high])).toEqual([
      [49, 52],
      [53, 57],
      [58, 63],
    ]);
    expect([...spreadRoots([50], { mode: "nearest", low: 0, high: 127, outer: false }).values()]).toEqual([
      { low: 50, high: 50 },
    ]);
  });

  test("nearest gives each key to the closest root", () => {
    const ranges = spreadRoots([50, 53, 60], { mode: "nearest", low: 48, high: 62 });
    expect([...ranges.values()]).toEqual([
      { low: 48, high: 51 },
      { low: 52, high: 56 },
      { low: 57, high: 62 },
    ]);
    expect([...spreadRoots([50, 60], { mode: "none", low: 0, high: 127 }).values()]).toEqual([
      { low: 50, high: 50 },
      { low: 60, high: 60 },
    ]);
  });
});
