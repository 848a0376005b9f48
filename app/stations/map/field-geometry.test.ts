import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { newZone } from "../../../core/instrument";
import { keyAt, keyX, settleAxis } from "../../state/key-axis";
import { settleVelocities } from "../../state/velocity-axis";
import {
  allVelocities,
  fadeHandles,
  hitFade,
  hitField,
  layStacks,
  regionAt,
  velocityAt,
  velocityY,
  withFade,
  zonesInBox,
} from "./field-geometry";

const all = allVelocities(577);
const axis = { low: 40, count: 40, width: 800 };
const zone = (id: string, keyLow: number, keyHigh: number, velLow: number, velHigh: number, repeat = 1) =>
  newZone({ id, sample: "s", end: 10, keyLow, keyHigh, velLow, velHigh, repeat });

describe("field", () => {
  test("zones that differ only in their repeat share a stack, in order; touching zones touch", () => {
    const stacks = layStacks(
      [zone("a", 50, 52, 1, 80, 2), zone("b", 50, 52, 1, 80, 1), zone("c", 53, 60, 1, 127), zone("d", 50, 52, 81, 127)],
      axis,
      all,
    );
    expect(stacks.map((s) => s.zones.map((z) => z.id))).toEqual([["b", "a"], ["c"], ["d"]]);
    const [soft, next, hard] = stacks;
    expect((soft?.x ?? 0) + (soft?.width ?? 0)).toBeCloseTo(next?.x ?? 0, 9);
    expect((hard?.y ?? 0) + (hard?.height ?? 0)).toBeCloseTo(soft?.y ?? 0, 9);
  });

  test("every place of a zone is hit, edges are edges, beside it is nothing", () => {
    const stacks = layStacks([zone("a", 50, 59, 1, 127)], axis, all);
    const [s] = stacks;
    if (!s) throw new Error("no stack");
    expect(hitField(stacks, s.x + s.width / 2, s.y + s.height / 2)?.part).toBe("body");
    expect(hitField(stacks, s.x + 1, s.y + 100)?.part).toBe("left");
    expect(hitField(stacks, s.x + s.width - 1, s.y + 100)?.part).toBe("right");
    expect(hitField(stacks, s.x + 50, s.y + 1)?.part).toBe("top");
    expect(hitField(stacks, s.x - 1, s.y + 100)).toBeNull();
  });

  test("velocities and heights are each other's inverse", () => {
    for (let v = 1; v <= 127; v++) expect(velocityAt(velocityY(v, all), all)).toBe(v);
  });

  test("closer in, velocities are each other's inverse too, and no zoom leaves the range", () => {
    const close = { height: 577, low: 40, high: 60 };
    for (let v = 41; v <= 60; v++) expect(velocityAt(velocityY(v, close), close)).toBe(v);
    fc.assert(
      fc.property(
        fc.double({ min: -500, max: 500, noNaN: true }),
        fc.double({ min: 0, max: 1000, noNaN: true }),
        (low, count) => {
          const { velFrom, velTo } = settleVelocities(low, count);
          expect(velFrom).toBeGreaterThanOrEqual(0);
          expect(velTo).toBeLessThanOrEqual(127);
          expect(velTo - velFrom).toBeGreaterThanOrEqual(8);
        },
      ),
    );
  });

  test("a box takes what it touches, in whatever direction it is drawn", () => {
    const stacks = layStacks([zone("a", 50, 52, 1, 60), zone("b", 53, 60, 61, 127)], axis, all);
    const [a, b] = stacks;
    if (!a || !b) throw new Error("no stacks");
    const mid = { x: a.x + a.width, y: a.y };
    expect([...zonesInBox(stacks, { x0: mid.x - 2, y0: mid.y + 2, x1: mid.x - 4, y1: mid.y + 6 })]).toEqual(["a"]);
    expect([...zonesInBox(stacks, { x0: mid.x + 2, y0: mid.y + 2, x1: mid.x - 2, y1: mid.y - 2 })]).toEqual(["a", "b"]);
    expect(zonesInBox(stacks, { x0: 0, y0: 0, x1: 5, y1: 5 }).size).toBe(0);
  });

  test("fades are taken hold of where they end, and follow the pointer as far as the zone goes", () => {
    const faded = { ...zone("a", 50, 59, 1, 127), keyFadeLow: 3, velFadeHigh: 30 };
    const [stack] = layStacks([faded], axis, all);
    if (!stack) throw new Error("no stack");
    const handles = fadeHandles(stack, axis);
    expect(handles.map((h) => h.part)).toEqual(["fadeLeft", "fadeRight", "fadeTop", "fadeBottom"]);
    for (const { part, x, y } of handles) expect(hitFade(stack, axis, x + 3, y - 3)).toBe(part);
    expect(keyAt(axis, (handles[0]?.x ?? 0) + 1)).toBe(53);
    expect(velocityAt(handles[2]?.y ?? 0, all)).toBe(97);
    expect(withFade(faded, "fadeLeft", 55, 0).keyFadeLow).toBe(5);
    expect(withFade(faded, "fadeRight", 100, 0).keyFadeHigh).toBe(0);
    expect(withFade(faded, "fadeTop", 0, 1).velFadeHigh).toBe(126);
    expect(withFade(faded, "fadeBottom", 0, 20).velFadeLow).toBe(19);
    expect(fadeHandles({ ...stack, width: 20 }, axis)).toEqual([]);
  });

  test("names of keys and velocities are places of their own", () => {
    expect(regionAt(100, 5, 800)).toBe("keys");
    expect(regionAt(795, 100, 800)).toBe("velocities");
    expect(regionAt(100, 100, 800)).toBe("field");
  });
});

describe("key axis", () => {
  test("keys and places are each other's inverse, and no zoom leaves the keyboard", () => {
    for (let key = 40; key < 80; key++) expect(keyAt(axis, keyX(axis, key) + 3)).toBe(key);
    fc.assert(
      fc.property(
        fc.double({ min: -500, max: 500, noNaN: true }),
        fc.double({ min: 0, max: 1000, noNaN: true }),
        (low, count) => {
          const { keyLow, keyCount } = settleAxis(low, count);
          expect(keyLow).toBeGreaterThanOrEqual(0);
          expect(keyLow + keyCount).toBeLessThanOrEqual(128);
        },
      ),
    );
  });
});
