import { describe, expect, test } from "@jest/globals";
import { fadeWeight } from "../../engine/zone-chooser";
import { crossfadeZones } from "./crossfade-zones";
import { instrumentOf, zone } from "./test-zones";

describe("crossfading velocity layers", () => {
  const layers = [1, 2, 3].map((n) =>
    zone(`v${n}`, { keyLow: 50, keyHigh: 55, velLow: [1, 41, 91][n - 1] ?? 1, velHigh: [40, 90, 127][n - 1] ?? 127 }),
  );
  const all = new Set(layers.map((z) => z.id));

  test("powers sum to one at every velocity, and taking the fade out again gives what was", () => {
    for (const width of [2, 7, 16, 40, 200]) {
      const faded = crossfadeZones(instrumentOf(layers), all, "velocities", width);
      const now = layers.map((z) => faded.get(z.id) ?? z);
      for (let v = 1; v <= 127; v++) {
        const power = now.reduce((sum, z) => {
          if (v < z.velLow || v > z.velHigh) return sum;
          return sum + fadeWeight(v, z.velLow, z.velHigh, z.velFadeLow, z.velFadeHigh) ** 2;
        }, 0);
        // Where a fade is as wide as its layer three of them meet in one place.
        expect(Math.abs(power - 1)).toBeLessThan(width > 30 ? 0.55 : 1e-9);
      }
      const apart = crossfadeZones(instrumentOf(now), all, "velocities", 0);
      expect(now.map((z) => apart.get(z.id) ?? z)).toEqual(layers);
    }
  });

  test("only what is chosen, in one group, at the same keys is faded", () => {
    const aside = zone("k", { keyLow: 60, keyHigh: 61, velLow: 41, velHigh: 90 });
    const changed = crossfadeZones(
      instrumentOf([...layers.slice(0, 2), aside], layers.slice(2)),
      new Set([...all, "k"]),
      "velocities",
      10,
    );
    expect([...changed.keys()].sort()).toEqual(["v1", "v2"]);
    expect(crossfadeZones(instrumentOf(layers), new Set(["v1"]), "velocities", 10).size).toBe(0);
  });

  test("neighbouring keys fade the same way", () => {
    const keys = [zone("l", { keyLow: 40, keyHigh: 49 }), zone("r", { keyLow: 50, keyHigh: 60 })];
    const changed = crossfadeZones(instrumentOf(keys), new Set(["l", "r"]), "keys", 5);
    expect(changed.get("l")).toMatchObject({ keyHigh: 51, keyFadeHigh: 4 });
    expect(changed.get("r")).toMatchObject({ keyLow: 47, keyFadeLow: 4 });
  });
});
