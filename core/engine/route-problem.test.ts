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
    ["filter", { type: "low" }, ["gain", "drive"], ["slope", "resonance", "resonanceWidth"]],
    ["filter", { type: "highShelf", model: "ladder" }, ["slope", "resonanceWidth"], ["gain", "drive"]],
    ["filter", { type: "peak" }, ["slope", "drive"], ["gain", "resonanceWidth"]],
    ["rotary", { speed: "slow" }, ["fastRate"], ["slowRate", "rampTime"]],
    ["rotary", { speed: "stopped" }, ["fastRate", "slowRate"], ["mix"]],
    ["delay", { ducking: 0 }, ["duckRelease"], ["time"]],
    ["delay", { ducking: 6, sync: "1/8" }, ["time"], ["duckRelease"]],
    ["ring", { tunedBy: "frequency" }, ["ratio"], ["frequency"]],
    ["noise", { colour: "white" }, ["density"], ["colour"]],
  ] as const)("of a %s with %j: %j, but not %j", (kind, params, idle, used) => {
    const unit = made(kind, params);
    for (const id of idle) expect(idleReason(unit, id)).toMatch(/\.$/);
    for (const id of used) expect(idleReason(unit, id)).toBeNull();
  });
});
