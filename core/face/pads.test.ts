import { describe, expect, test } from "@jest/globals";
import { addFaceItem, addLayer, type Instrument, newFaceItem, newInstrument, newLayer, together } from "../instrument";
import { padsOf } from "./pads";
import { reachOf } from "./reach";
import { snapshotOf } from "./snapshot";

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
      "layers/main/strip/mute",
      "layers/main/strip/level",
      "layers/low/strip/mute",
      "layers/low/strip/level",
    ]);
    expect(reachOf(doc, { ...mix, form: "blend" })).toHaveLength(2);
    expect(snapshotOf(doc)).toMatchObject({ "play/a4": 440, "layers/low/strip/mute": 0 });
  });
});
