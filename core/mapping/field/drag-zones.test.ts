import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import type { Zone } from "../../instrument";
import { dragZones, shiftedCopy, zonesBeside } from "./drag-zones";
import { instrumentOf, zone } from "./test-zones";

describe("dragging", () => {
  const zones = [
    zone("a", { keyLow: 40, keyHigh: 49, root: 45 }),
    zone("b", { keyLow: 50, keyHigh: 59, root: 55, velHigh: 63 }),
    zone("c", { keyLow: 50, keyHigh: 59, root: 55, velLow: 64 }),
    zone("d", { keyLow: 60, keyHigh: 62 }),
  ];

  test("boundaries are shared by zones of one group that meet there", () => {
    const other = zone("x", { keyLow: 50, keyHigh: 59 });
    const instrument = instrumentOf(zones, [other]);
    const at = (id: string, part: Parameters<typeof zonesBeside>[2]) => {
      const { along, beside } = zonesBeside(instrument, new Set([id]), part);
      return [[...along].join(""), [...beside].join("")];
    };
    expect(at("a", "right")).toEqual(["", "bc"]);
    expect(at("b", "top")).toEqual(["", "c"]);
    expect(at("c", "left")).toEqual(["b", "a"]);
    expect(at("c", "right")).toEqual(["b", "d"]);
    expect(at("a", "body")).toEqual(["", ""]);
    expect(at("a", "left")).toEqual(["", ""]);
  });

  test("both sides of a boundary move, and none of them vanishes", () => {
    const [a, b, c] = zones as [Zone, Zone, Zone];
    const moved = dragZones([a], [b, c], { part: "right", keys: 4, velocities: 0, roots: false });
    expect([moved.get("a")?.keyHigh, moved.get("b")?.keyLow, moved.get("c")?.keyLow]).toEqual([53, 54, 54]);
    const far = dragZones([a], [b, c], { part: "right", keys: 90, velocities: 0, roots: false });
    expect([far.get("a")?.keyHigh, far.get("b")?.keyLow]).toEqual([58, 59]);
    const back = dragZones([a], [b, c], { part: "right", keys: -90, velocities: 0, roots: false });
    expect([back.get("a")?.keyHigh, back.get("b")?.keyLow]).toEqual([40, 41]);
    const up = dragZones([b], [c], { part: "top", keys: 0, velocities: 10, roots: false });
    expect([up.get("b")?.velHigh, up.get("c")?.velLow]).toEqual([73, 74]);
  });

  test("a body stops where the first of its zones must, with its roots or without", () => {
    const moved = dragZones(zones, [], { part: "body", keys: 200, velocities: 0, roots: false });
    expect(zones.map((z) => (moved.get(z.id)?.keyLow ?? 0) - z.keyLow)).toEqual([65, 65, 65, 65]);
    expect(moved.get("a")?.root).toBe(45);
    expect(shiftedCopy(zones, 3).map((z) => [z.keyLow, z.root])).toEqual([
      [43, 48],
      [53, 58],
      [53, 58],
      [63, 63],
    ]);
  });

  test("whatever is dragged wherever: ranges stay ranges, boundaries stay boundaries", () => {
    fc.assert(
      fc.property(
        fc.constantFrom("body" as const, "left" as const, "right" as const, "top" as const, "bottom" as const),
        fc.integer({ min: -140, max: 140 }),
        fc.integer({ min: -140, max: 140 }),
        fc.boolean(),
        fc.subarray(zones, { minLength: 1 }),
        (part, keys, velocities, roots, own) => {
          const ids = new Set(own.map((z) => z.id));
          const { along, beside } = zonesBeside(instrumentOf(zones), ids, part);
          const moved = dragZones(
            zones.filter((z) => ids.has(z.id) || along.has(z.id)),
            zones.filter((z) => beside.has(z.id)),
            { part, keys, velocities, roots },
          );
          for (const z of moved.values()) {
            expect(z.keyLow).toBeGreaterThanOrEqual(0);
            expect(z.keyHigh).toBeLessThanOrEqual(127);
            expect(z.keyHigh).toBeGreaterThanOrEqual(z.keyLow);
            expect(z.velLow).toBeGreaterThanOrEqual(1);
            expect(z.velHigh).toBeLessThanOrEqual(127);
            expect(z.velHigh).toBeGreaterThanOrEqual(z.velLow);
            expect(z.root >= 0 && z.root <= 127).toBe(true);
          }
          // Every key between the outermost is covered as often as before where a boundary was shared.
          if (part === "body" || beside.size === 0) return;
          const all = zones.map((z) => moved.get(z.id) ?? z);
          const countAt = (list: readonly Zone[], key: number, vel: number) =>
            list.filter((z) => key >= z.keyLow && key <= z.keyHigh && vel >= z.velLow && vel <= z.velHigh).length;
          if (own.length === 1 && part === "right")
            for (let key = 40; key <= 62; key++) expect(countAt(all, key, 30)).toBe(countAt(zones, key, 30));
        },
      ),
      { numRuns: 300, seed: 4 },
    );
  });
});
