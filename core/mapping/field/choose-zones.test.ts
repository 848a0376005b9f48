import { describe, expect, test } from "@jest/globals";
import { velocityLayers, zonesWhere } from "./choose-zones";
import { instrumentOf, zone } from "./test-zones";

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
