import { describe, expect, test } from "@jest/globals";
import { trimOf } from "./trim-of";

describe("the trim by which two sides are as loud as each other", () => {
  const side = (power: number, looks = 10) => ({ power, looks });
  test("is the difference of their loudness, bounded", () => {
    expect(trimOf({ with: side(2), without: side(1) })).toBeCloseTo(3.01, 2);
    expect(trimOf({ with: side(1), without: side(10) })).toBeCloseTo(-10, 6);
    expect(trimOf({ with: side(1), without: side(1e-9) })).toBe(24);
  });
  test("isn't known before both have been heard for a while", () => {
    expect(trimOf({ with: side(1), without: side(0, 0) })).toBeNull();
    expect(trimOf({ with: side(1, 4), without: side(1) })).toBeNull();
  });
});
