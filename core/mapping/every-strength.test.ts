import { expect, test } from "@jest/globals";
import { type Instrument, newInstrument, newZone, placeZones, type Zone } from "../instrument";
import { bothEnds, everyStrength } from "./every-strength";

const zone = (id: string, more: Partial<Zone>): Zone => newZone({ id, sample: "a".repeat(64), end: 10, ...more });
const withZones = (zones: readonly Zone[]): Instrument =>
  placeZones("main", "main", zones, true).apply(newInstrument("i", "Test"));

test("every key is struck once for each stretch of velocities in which other zones answer", () => {
  const strokes = everyStrength(
    withZones([
      zone("soft", { keyLow: 60, keyHigh: 61, velHigh: 60 }),
      zone("hard", { keyLow: 60, keyHigh: 60, velLow: 51 }),
      zone("again", { keyLow: 60, keyHigh: 60, velLow: 51, repeat: 2 }),
    ]),
  );
  // 1–50 soft alone, 51–60 both, 61–127 hard alone.
  expect(strokes).toEqual([
    { key: 60, velocity: 26 },
    { key: 60, velocity: 56 },
    { key: 60, velocity: 94 },
    { key: 61, velocity: 31 },
  ]);
  expect(everyStrength(newInstrument("i", "Empty"))).toEqual([]);
});

test("velocities at which nothing sounds are passed over, and thousands of strokes are thinned by keys", () => {
  expect(
    everyStrength(
      withZones([
        zone("a", { keyLow: 5, keyHigh: 5, velLow: 10, velHigh: 20 }),
        zone("b", { keyLow: 5, keyHigh: 5, velLow: 100 }),
      ]),
    ).map((s) => s.velocity),
  ).toEqual([15, 114]);
  const many = Array.from({ length: 127 }, (_, v) => zone(`v${v}`, { velLow: v + 1, velHigh: v + 1 }));
  const strokes = everyStrength(withZones(many));
  expect(strokes.length).toBeLessThanOrEqual(2000);
  expect(new Set(strokes.map((s) => s.velocity)).size).toBe(127);
});

test("both ends are the outermost keys at the extremes, none of them twice", () => {
  expect(
    bothEnds([zone("a", { keyLow: 40, keyHigh: 50, velLow: 20 }), zone("b", { keyLow: 48, keyHigh: 60, velHigh: 90 })]),
  ).toEqual([
    { key: 40, velocity: 1 },
    { key: 40, velocity: 127 },
    { key: 60, velocity: 1 },
    { key: 60, velocity: 127 },
  ]);
  expect(bothEnds([zone("a", { keyLow: 40, keyHigh: 40, velLow: 9, velHigh: 9 })])).toEqual([{ key: 40, velocity: 9 }]);
  expect(bothEnds([])).toEqual([]);
});
