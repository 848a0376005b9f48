import { expect, test } from "@jest/globals";
import { readPreset } from "./saved-presets";

test("a preset of before version 14 is read by the ids and values of now", () => {
  const before = { kind: "rotary", name: "Loft", params: { near: 0.9, slow: 1.5, speed: "still", nothing: 3 } };
  const read = readPreset(before);
  expect(read?.params).toMatchObject({ slowRate: 1.5, speed: "stopped" });
  expect(read?.params.micDistance).toBeCloseTo(0.1, 9);
  expect(Object.keys(read?.params ?? {})).toHaveLength(3);
  expect(readPreset({ kind: "partials", params: {}, table: [{ ratio: 2, place: -0.5, rise: 0.2 }] })?.table).toEqual([
    expect.objectContaining({ ratio: 2, pan: -0.5, attack: 0.2 }),
  ]);
});

test("what is read once reads as the same again; what is none is none", () => {
  const read = readPreset({ kind: "filter", name: "Edge", params: { mode: "high", cutoff: 1e9, lift: 3 } });
  expect(read?.params).toEqual({ type: "high", cutoff: 20000, gain: 3 });
  expect(readPreset(read)).toEqual(read);
  for (const odd of [null, 3, "filter", [], { kind: "saddle" }, { params: {} }]) expect(readPreset(odd)).toBeNull();
});
