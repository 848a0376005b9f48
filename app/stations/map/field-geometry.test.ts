import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { newZone } from "../../../core/instrument";
import { keyAt, keyX, settleAxis } from "../../state/key-axis";
import { dragZone, hitField, layStacks, velocityAt, velocityY } from "./field-geometry";

const axis = { low: 40, count: 40, width: 800 };
const zone = (id: string, keyLow: number, keyHigh: number, velLow: number, velHigh: number, repeat = 1) =>
  newZone({ id, sample: "s", end: 10, keyLow, keyHigh, velLow, velHigh, repeat });

describe("field", () => {
  test("zones that differ only in their repeat share a stack, in order; touching zones touch", () => {
    const stacks = layStacks(
      [zone("a", 50, 52, 1, 80, 2), zone("b", 50, 52, 1, 80, 1), zone("c", 53, 60, 1, 127), zone("d", 50, 52, 81, 127)],
      axis,
      500,
    );
    expect(stacks.map((s) => s.zones.map((z) => z.id))).toEqual([["b", "a"], ["c"], ["d"]]);
    const [soft, next, hard] = stacks;
    expect((soft?.x ?? 0) + (soft?.width ?? 0)).toBeCloseTo(next?.x ?? 0, 9);
    expect((hard?.y ?? 0) + (hard?.height ?? 0)).toBeCloseTo(soft?.y ?? 0, 9);
  });

  test("every place of a zone is hit, edges are edges, beside it is nothing", () => {
    const stacks = layStacks([zone("a", 50, 59, 1, 127)], axis, 500);
    const [s] = stacks;
    if (!s) throw new Error("no stack");
    expect(hitField(stacks, s.x + s.width / 2, s.y + s.height / 2)?.part).toBe("body");
    expect(hitField(stacks, s.x + 1, s.y + 100)?.part).toBe("left");
    expect(hitField(stacks, s.x + s.width - 1, s.y + 100)?.part).toBe("right");
    expect(hitField(stacks, s.x + 50, s.y + 1)?.part).toBe("top");
    expect(hitField(stacks, s.x - 1, s.y + 100)).toBeNull();
  });

  test("velocities and heights are each other's inverse", () => {
    for (let v = 1; v <= 127; v++) expect(velocityAt(velocityY(v, 577), 577)).toBe(v);
  });

  test("however it is dragged, a zone stays on the keyboard and isn't turned inside out", () => {
    const parts = ["body", "left", "right", "top", "bottom"] as const;
    fc.assert(
      fc.property(
        fc.constantFrom(...parts),
        fc.integer({ min: -300, max: 300 }),
        fc.integer({ min: 1, max: 127 }),
        (part, keys, velocity) => {
          const dragged = dragZone(zone("a", 50, 59, 30, 90), part, keys, velocity);
          expect(dragged.keyLow).toBeGreaterThanOrEqual(0);
          expect(dragged.keyHigh).toBeLessThanOrEqual(127);
          expect(dragged.keyLow).toBeLessThanOrEqual(dragged.keyHigh);
          expect(dragged.velLow).toBeLessThanOrEqual(dragged.velHigh);
          if (part === "body") expect(dragged.keyHigh - dragged.keyLow).toBe(9);
        },
      ),
    );
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
