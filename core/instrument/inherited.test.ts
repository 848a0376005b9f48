import { describe, expect, test } from "@jest/globals";
import { findParam } from "./address";
import { newUnit } from "./defaults";
import { inheritedOf } from "./inherited";
import type { Instrument } from "./instrument";
import { addUnit, setParam } from "./param-edits";
import { made, zone } from "./test-groups";
import { placeZones } from "./zone-edits";

describe("what a zone inherits", () => {
  test("level, pan and tuning are the sum of what zone, group, microphone, layer and instrument say", () => {
    const start = addUnit("mics", newUnit("mic", "near", "Near")).apply(made());
    const c = { ...zone("far", 40), gain: 2, pan: 0.5, tune: -10, mic: "near" };
    const placed = placeZones("main", "dampers", [c], false).apply(start);
    const set = (doc: Instrument, address: string, value: number) => setParam(doc, address, value).apply(doc);
    const doc = [
      ["layers/main/groups/dampers/level", -3],
      ["layers/main/groups/dampers/pan", 0.4],
      ["layers/main/groups/dampers/tuning", 5],
      ["mics/near/level", -1],
      ["mics/near/pan", 0.3],
      ["layers/main/source/transpose", 1],
      ["layers/main/source/fine", 20],
      ["play/level", -2],
    ].reduce((d, [address, value]) => set(d, String(address), Number(value)), placed);
    expect(inheritedOf(doc, "nobody")).toBeNull();
    const inherited = inheritedOf(doc, "far");
    expect(inherited?.level.sum).toBeCloseTo(2 - 3 - 1 - 6 - 2);
    expect(inherited?.pan.sum).toBe(1);
    expect(inherited?.tune.sum).toBeCloseTo(-10 + 5 + 120);
    expect(inherited?.level.parts.map((p) => p.from)).toEqual(["zone", "group", "microphone", "layer", "instrument"]);
    for (const { parts } of Object.values(inherited ?? {}))
      for (const { addresses } of parts) for (const a of addresses) expect(findParam(doc, a)).not.toBeNull();
  });
});
