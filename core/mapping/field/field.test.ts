import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { seededRandom } from "../../audio";
import { fadeWeight } from "../../engine/zone-chooser";
import { type Instrument, newGroup, newInstrument, newSample, newZone, type Zone } from "../../instrument";
import { bulkValues, parseBulk } from "./bulk-change";
import { velocityLayers, zonesWhere } from "./choose-zones";
import { crossfadeZones } from "./crossfade-zones";
import { dragZones, shiftedCopy, zonesBeside } from "./drag-zones";

const SHA = "a".repeat(64);
const zone = (id: string, more: Partial<Zone> = {}): Zone => newZone({ id, sample: SHA, end: 1000, ...more });
const instrumentOf = (...groups: Zone[][]): Instrument => {
  const made = newInstrument("i", "Test");
  const [layer] = made.layers;
  if (!layer) throw new Error("there is no layer");
  const list = groups.map((zones, i) => ({ ...newGroup(`g${i}`, `Group ${i + 1}`), zones }));
  return {
    ...made,
    samples: [newSample({ sha: SHA, name: "Low tube", frames: 44100, pitch: 60.3, confidence: 1 })],
    layers: [{ ...layer, groups: list }],
  };
};

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

describe("numbers of several zones at once", () => {
  const zones = [zone("a", { root: 40, gain: -6 }), zone("b", { root: 50, gain: 0 }), zone("c", { root: 60, gain: 6 })];
  const number = (text: string) =>
    /^-?\d+([.,]\d+)?( dB)?$/.test(text.trim()) ? Number.parseFloat(text.replace(",", ".")) : null;
  const became = (text: string) => {
    const change = parseBulk(text, number);
    return change && [...bulkValues(change, zones, (z) => z.gain, seededRandom(1)).values()];
  };

  test("are set, added to, scaled, run over the keys or scattered", () => {
    expect(became("3")).toEqual([3, 3, 3]);
    expect(became("-3 dB")).toEqual([-3, -3, -3]);
    expect(became("+1,5")).toEqual([-4.5, 1.5, 7.5]);
    expect(became("+−2")).toEqual([-8, -2, 4]);
    expect(became("×0.5")).toEqual([-3, 0, 3]);
    expect(became("*2")).toEqual([-12, 0, 12]);
    expect(became("-10…10")).toEqual([-10, 0, 10]);
    expect(became("0..5")).toEqual([0, 2.5, 5]);
    const scattered = became("±2") ?? [];
    scattered.forEach((x, i) => {
      expect(Math.abs(x - (zones[i]?.gain ?? 0))).toBeLessThanOrEqual(2);
    });
    expect(new Set(scattered.map((x, i) => x - (zones[i]?.gain ?? 0))).size).toBe(3);
  });

  test("that can't be read change nothing", () => {
    for (const text of ["", "+", "×", "loud", "+loud", "1…", "…2", "±"]) expect(became(text)).toBeNull();
  });
});

describe("choosing by rule", () => {
  const zones = [
    zone("a", { root: 60, velHigh: 50, repeat: 1 }),
    zone("b", { root: 60, velLow: 51, repeat: 2, gain: -3, tune: -30 }),
    zone("c", { root: 72, keyLow: 70, keyHigh: 80, velLow: 20, velHigh: 50 }),
  ];
  const instrument = instrumentOf(zones.slice(0, 2), zones.slice(2));
  const chosen = (
    field: Parameters<typeof zonesWhere>[1]["field"],
    test: "is" | "isn't" | "above" | "below",
    value: number | string,
  ) => [...zonesWhere(instrument, { field, test, value })].join("");

  test("finds what it says", () => {
    expect(chosen("layer", "is", 2)).toBe("b");
    expect(chosen("root", "isn't", 60)).toBe("c");
    expect(chosen("off", "above", 20)).toBe("ac");
    expect(chosen("off", "below", 1)).toBe("b");
    expect(chosen("velocity", "below", 51)).toBe("ac");
    expect(chosen("repeat", "is", 2)).toBe("b");
    expect(chosen("loops", "is", 0)).toBe("abc");
    expect(chosen("name", "is", "TUBE")).toBe("abc");
    expect(chosen("group", "is", "2")).toBe("c");
    expect(chosen("group", "above", "2")).toBe("");
  });

  test("layers are counted at each zone's own keys", () => {
    expect(velocityLayers([...zones])).toEqual(
      new Map([
        ["a", 1],
        ["b", 2],
        ["c", 2],
      ]),
    );
  });
});
