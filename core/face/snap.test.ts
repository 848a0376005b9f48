import { describe, expect, test } from "@jest/globals";
import { snapped } from "./snap";

describe("where an item settles", () => {
  const page = { width: 640, height: 360 };
  const other = { x: 100, y: 100, width: 50, height: 50 };
  test("on edges and centres of others and of the page, each way by itself, with a line where it did", () => {
    const at = snapped({ x: 153, y: 37, width: 40, height: 20 }, [other], page, 6, 4);
    expect(at.x).toBe(150);
    expect(at.guides).toEqual([{ way: "x", at: 150, from: 37, to: 150 }]);
    expect(at.y).toBe(36);
    expect(snapped({ x: 302, y: 171, width: 40, height: 20 }, [], page, 6, 4)).toMatchObject({ x: 300, y: 170 });
  });
  test("at the gap that two others have between them", () => {
    const row = [other, { ...other, x: 180 }];
    expect(snapped({ x: 262, y: 100, width: 50, height: 50 }, row, page, 6, 4).x).toBe(260);
    expect(snapped({ x: 18, y: 100, width: 50, height: 50 }, row, page, 6, 4).x).toBe(20);
  });
  test("what is far from everything stands on the grid", () => {
    expect(snapped({ x: 333.3, y: 277.7, width: 33, height: 17 }, [other], page, 4, 4)).toEqual({
      x: 332,
      y: 276,
      guides: [],
    });
  });
});
