import { describe, expect, test } from "@jest/globals";
import { newUnit } from "../../core/instrument";
import { kindsAt } from "../../core/units";
import { listOfAddress } from "./unit-lists";
import { equaliserDecibels, filterDecibels, frequencyAt, pictureOf, placeOf } from "./unit-picture";

describe("pictures of units", () => {
  test.each([...kindsAt("main"), ...kindsAt("stage"), "amp" as const])(
    "%s: every height lies within the picture",
    (kind) => {
      const points = pictureOf(newUnit(kind, "u"), 40);
      expect(points).toHaveLength(40);
      for (const y of points ?? []) expect(y >= 0 && y <= 1).toBe(true);
    },
  );

  test("places across are frequencies, and back", () => {
    expect([frequencyAt(0), frequencyAt(1)].map(Math.round)).toEqual([20, 20000]);
    for (const f of [20, 55, 440, 9999]) expect(frequencyAt(placeOf(f))).toBeCloseTo(f, 6);
  });

  test("a neutral equaliser is flat, a bell lifts where it stands; a filter falls above its cutoff", () => {
    const flat = newUnit("equaliser", "e");
    for (const f of [30, 500, 12000]) expect(equaliserDecibels(flat, f)).toBeCloseTo(0, 6);
    const lifted = { ...flat, params: { ...flat.params, gain4: 9, frequency4: 2000 } };
    expect(equaliserDecibels(lifted, 2000)).toBeCloseTo(9, 6);
    const filter = newUnit("filter", "f");
    const low = { ...filter, params: { ...filter.params, cutoff: 500 } };
    expect(filterDecibels(low, 5000)).toBeLessThan(-30);
  });
});

describe("lists of units", () => {
  test("which units can be moved is told by their addresses", () => {
    expect(listOfAddress("effects/reverb")).toEqual({ list: "effects", id: "reverb" });
    expect(listOfAddress("layers/main/inserts/a")).toEqual({ list: "layers/main/inserts", id: "a" });
    expect(listOfAddress("sends/send1/a")).toEqual({ list: "sends/send1", id: "a" });
    for (const fixed of ["layers/main/amp", "layers/main/strip", "play"]) expect(listOfAddress(fixed)).toBeNull();
  });
});
