import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { bent, unbent } from "../dsp";
import { addFaceItem, addLayer, type Instrument, newFaceItem, newInstrument, newLayer, together } from "../instrument";
import { blendLevels, blendPlace } from "./blend";
import { passes } from "./conditions";
import { padsOf } from "./pads";
import { reachOf } from "./reach";
import { snapshotOf } from "./snapshot";

const share = fc.double({ min: 0, max: 1, noNaN: true });

describe("layers that are blended", () => {
  test("two neighbours at a time, the same power throughout, and the place is found again", () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 8 }), share, (count, place) => {
        const levels = blendLevels(count, place);
        const gains = levels.map((level) => (level <= -60 ? 0 : 10 ** (level / 20)));
        expect(gains.filter((g) => g > 0).length).toBeLessThanOrEqual(2);
        expect(gains.reduce((sum, g) => sum + g * g, 0)).toBeCloseTo(1, 5);
        expect(Math.abs(blendPlace(levels) - place) * (count - 1)).toBeLessThan(0.001);
      }),
      { seed: 3 },
    );
    expect(blendLevels(3, 0.5)).toEqual([-60, 0, -60]);
    expect([blendPlace([]), blendPlace([-6]), blendPlace([-60, -60])]).toEqual([0, 0, 0]);
  });
});

test("the way along a bent line and back", () => {
  fc.assert(
    fc.property(share, fc.double({ min: -1, max: 1, noNaN: true }), (place, bend) => {
      expect(bent(unbent(place, bend), bend)).toBeCloseTo(place, 6);
    }),
    { seed: 4 },
  );
});

test("a test holds at its place and above, below it, or from there up to another, either way round", () => {
  const at = { share: 0.5, upTo: 0.75 };
  const hold = (is: "above" | "below" | "between", of = at) =>
    [0.4, 0.5, 0.75, 0.8].map((t) => passes({ is, ...of }, t));
  expect(hold("above")).toEqual([false, true, true, true]);
  expect(hold("below")).toEqual([true, false, false, false]);
  expect(hold("between")).toEqual([false, true, true, false]);
  expect(hold("between", { share: 0.75, upTo: 0.5 })).toEqual([false, true, true, false]);
});

describe("pads and reach", () => {
  const doc: Instrument = together("", [
    addLayer(newLayer("low", "Low")),
    addFaceItem({ id: "l", kind: "layers" }),
    addFaceItem({ id: "t", kind: "tuning" }),
  ]).apply(newInstrument("i", "I"));
  test("an instrument without narrow zones has the white keys about the middle", () => {
    expect(padsOf(doc, 8).map((p) => p.key)).toEqual([48, 50, 52, 53, 55, 57, 59, 60]);
    expect(padsOf(doc, 99)).toHaveLength(16);
  });
  test("layers and tuning reach what they show, and snapshots hold it", () => {
    const mix = newFaceItem({ id: "m", kind: "layers" });
    expect(reachOf(doc, mix)).toEqual([
      "layers/main/strip/heard",
      "layers/main/strip/level",
      "layers/low/strip/heard",
      "layers/low/strip/level",
    ]);
    expect(reachOf(doc, { ...mix, form: "blend" })).toHaveLength(2);
    expect(snapshotOf(doc)).toMatchObject({ "play/a4": 440, "layers/low/strip/heard": 1 });
  });
});
