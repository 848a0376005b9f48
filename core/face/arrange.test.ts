import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { type Arrangement, around, arranged, type Box } from "./arrange";

const boxes: Box[] = [
  { x: 10, y: 20, width: 40, height: 40 },
  { x: 200, y: 28, width: 60, height: 20 },
  { x: 90, y: 14, width: 20, height: 60 },
  { x: 15, y: 200, width: 50, height: 50 },
];

describe("arranging", () => {
  test("aligned edges and centres are equal, and the whole stays where it was", () => {
    for (const [how, of] of [
      ["left", (b: Box) => b.x],
      ["right", (b: Box) => b.x + b.width],
      ["top", (b: Box) => b.y],
      ["bottom", (b: Box) => b.y + b.height],
      ["centre", (b: Box) => b.x + b.width / 2],
      ["middle", (b: Box) => b.y + b.height / 2],
    ] as const) {
      const out = arranged(boxes, how);
      for (const box of out) expect(Math.abs(of(box) - of(out[0] as Box))).toBeLessThanOrEqual(1);
      out.forEach((box, i) => {
        expect([box.width, box.height]).toEqual([boxes[i]?.width, boxes[i]?.height]);
      });
    }
  });

  test("gaps are the same between the first and the last, rows, grids and circles overlap nowhere, fewer than two stay", () => {
    const out = [...arranged(boxes, "across")].sort((a, b) => a.x - b.x);
    const gaps = out.slice(1).map((b, i) => b.x - ((out[i] as Box).x + (out[i] as Box).width));
    for (const gap of gaps) expect(Math.abs(gap - (gaps[0] as number))).toBeLessThanOrEqual(1);
    expect(around(out).x).toBe(around(boxes).x);
    expect(around(out).width).toBe(around(boxes).width);
    const random = seededRandom(5);
    const many = Array.from({ length: 23 }, () => ({
      x: random() * 600,
      y: random() * 300,
      width: 20 + random() * 60,
      height: 20 + random() * 60,
    }));
    for (const how of ["row", "grid", "circle"] as const) {
      const laid = arranged(many, how);
      laid.forEach((a, i) => {
        for (const b of laid.slice(i + 1))
          expect(a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height).toBe(
            false,
          );
      });
    }
    expect(arranged(boxes, "size").every((b) => b.width === 40 && b.height === 40)).toBe(true);
    for (const how of ["left", "down", "grid"] as Arrangement[])
      expect(arranged(boxes.slice(0, 1), how)).toEqual(boxes.slice(0, 1));
  });
});
