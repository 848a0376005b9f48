import { describe, expect, test } from "@jest/globals";
import { newUnit, type Unit } from "../instrument";
import type { UnitKind } from "../units";
import { idleReason } from "./route-problem";

const made = (kind: UnitKind, params: Unit["params"]): Unit => {
  const unit = newUnit(kind, "u");
  return { ...unit, params: { ...unit.params, ...params } };
};

describe("what has no effect as the other settings are", () => {
  test.each([
    ["filter", { mode: "low" }, ["lift", "drive"], ["slope", "resonance", "rings"]],
    ["filter", { mode: "highShelf", character: "ladder" }, ["slope", "rings"], ["lift", "drive"]],
    ["filter", { mode: "peak" }, ["slope", "drive"], ["lift", "rings"]],
    ["rotary", { speed: "slow" }, ["fast"], ["slow", "inertia"]],
    ["rotary", { speed: "still" }, ["fast", "slow"], ["mix"]],
    ["delay", { duck: 0 }, ["back"], ["time"]],
    ["delay", { duck: 6, beat: "1/8" }, ["time"], ["back"]],
    ["ring", { by: "hertz" }, ["ratio"], ["frequency"]],
    ["noise", { colour: "white" }, ["density"], ["colour"]],
  ] as const)("of a %s with %j: %j, but not %j", (kind, params, idle, used) => {
    const unit = made(kind, params);
    for (const id of idle) expect(idleReason(unit, id)).toMatch(/\.$/);
    for (const id of used) expect(idleReason(unit, id)).toBeNull();
  });
});
