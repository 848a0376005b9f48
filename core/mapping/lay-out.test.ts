import { describe, expect, test } from "@jest/globals";
import { keysFrom } from "./lay-out";

describe("keys one after the other", () => {
  test("every key, the white ones, every fifth, as many as there are", () => {
    expect(keysFrom(60, "all", 3)).toEqual([60, 61, 62]);
    expect(keysFrom(61, "white", 4)).toEqual([62, 64, 65, 67]);
    expect(keysFrom(0, 5, 3)).toEqual([0, 5, 10]);
    expect(keysFrom(126, "all", 9)).toEqual([126, 127]);
  });
});
