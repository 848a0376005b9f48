import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { newZone, type Zone } from "../instrument";
import { spreadZones, type ZoneSpreadOptions } from "./spread-zones";

const zone = (id: string, root: number, more: Partial<Zone> = {}): Zone =>
  newZone({ id, sample: "a".repeat(64), end: 10, root, keyLow: root, keyHigh: root, ...more });
const options = (more: Partial<ZoneSpreadOptions>): ZoneSpreadOptions => ({
  ...{ mode: "nearest", low: 36, high: 84, step: "all", track: null },
  ...more,
});
const told = (zones: readonly Zone[], more: Partial<ZoneSpreadOptions>) =>
  [...spreadZones(zones, options(more))].map(([id, z]) => `${id} ${z.keyLow}–${z.keyHigh} ${z.root} ${z.track}`);

test("roots are spread, with the layers that share them", () => {
  const zones = [zone("a", 40), zone("b", 50, { velLow: 64 }), zone("c", 50, { velHigh: 63 }), zone("out", 10)];
  expect(told(zones, {})).toEqual(["a 36–45 40 1", "b 46–84 50 1", "c 46–84 50 1"]);
  expect(told(zones, { mode: "down", outer: false })).toEqual(["a 36–40 40 1", "b 41–50 50 1", "c 41–50 50 1"]);
});

test("one sample over the whole keyboard, with its pitch following or not", () => {
  expect(told([zone("a", 60)], { mode: "whole", low: 0, high: 127 })).toEqual(["a 0–127 60 1"]);
  expect(told([zone("a", 60)], { mode: "whole", low: 0, high: 127, track: 0 })).toEqual(["a 0–127 60 0"]);
});

test("a key each, untransposed: all keys, white ones, every n-th; beyond the limits nothing", () => {
  const zones = [zone("c", 70), zone("a", 20), zone("b", 33), zone("b2", 33)];
  expect(told(zones, { mode: "each" })).toEqual(["c 38–38 38 1", "a 36–36 36 1", "b 37–37 37 1", "b2 37–37 37 1"]);
  expect(told(zones, { mode: "each", step: "white" }).map((t) => t.split(" ")[1])).toEqual([
    "40–40",
    "36–36",
    "38–38",
    "38–38",
  ]);
  expect(told(zones, { mode: "each", step: 3, high: 40 })).toEqual(["a 36–36 36 1", "b 39–39 39 1", "b2 39–39 39 1"]);
});

test("spreading never overlaps nor leaves a gap inside its bounds", () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.integer({ min: 0, max: 127 }), { minLength: 1, maxLength: 20 }),
      fc.constantFrom("nearest" as const, "down" as const, "up" as const),
      fc.integer({ min: 0, max: 127 }),
      fc.integer({ min: 0, max: 127 }),
      (roots, mode, a, b) => {
        const [low, high] = [Math.min(a, b), Math.max(a, b)];
        const spread = spreadZones(
          roots.map((r) => zone(`z${r}`, r)),
          options({ mode, low, high }),
        );
        const inside = roots.filter((r) => r >= low && r <= high);
        expect(spread.size).toBe(inside.length);
        if (inside.length === 0) return;
        for (let key = low; key <= high; key++)
          expect([...spread.values()].filter((z) => key >= z.keyLow && key <= z.keyHigh)).toHaveLength(1);
      },
    ),
    { numRuns: 200, seed: 8 },
  );
});

test("velocity layers, layers and microphones that were sampled at other roots each cover all keys", () => {
  const soft = (root: number) => zone(`s${root}`, root, { velHigh: 70 });
  const loud = (root: number) => zone(`l${root}`, root, { velLow: 60 });
  expect(told([soft(40), soft(52), loud(46), loud(60)], { mode: "down" })).toEqual([
    "s40 36–40 40 1",
    "s52 41–84 52 1",
    "l46 36–46 46 1",
    "l60 47–84 60 1",
  ]);
  const near = zone("near", 40, { mic: "near" });
  const far = zone("far", 50, { mic: "far" });
  expect(told([near, far], { apart: (z) => z.mic ?? "" })).toEqual(["near 36–84 40 1", "far 36–84 50 1"]);
  // Repeats of which a root has more than another share its keys.
  const repeats = [zone("a1", 40), zone("a2", 40, { repeat: 2 }), zone("b1", 50)];
  expect(told(repeats, {})).toEqual(["a1 36–45 40 1", "a2 36–45 40 1", "b1 46–84 50 1"]);
});
