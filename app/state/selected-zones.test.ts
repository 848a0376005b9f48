import { expect, test } from "@jest/globals";
import { newZone } from "../../core/instrument";
import { partZones } from "./selected-zones";

const zones = Array.from({ length: 10 }, (_, i) => newZone({ id: `z${i}`, sample: "s", end: 10 }));

test("zones are parted by what is selected; while a selected one is dragged the rest stays the very same list", () => {
  const ids = new Set(["z3", "z7"]);
  const first = partZones(zones, ids);
  expect(first.chosen.map((z) => z.id)).toEqual(["z3", "z7"]);
  expect(first.rest).toHaveLength(8);
  expect(partZones(zones, ids)).toBe(first);
  const dragged = zones.map((z) => (z.id === "z3" ? { ...z, keyLow: 5 } : z));
  const second = partZones(dragged, ids);
  expect(second.rest).toBe(first.rest);
  expect(second.chosen[0]?.keyLow).toBe(5);
  expect(partZones(dragged, new Set())).toMatchObject({ chosen: [] });
});
