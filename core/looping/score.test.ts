import { describe, expect, test } from "@jest/globals";
import { findLoops } from "./find-loops";
import { made, RATE } from "./test-sounds";

const sound = (...channels: readonly Float32Array[]) => ({ rate: RATE, channels: [...channels] });

describe("wishes", () => {
  test("short or long ones come first where they are as good", () => {
    const tone = made(5, (t) => 0.3 * Math.sin(2 * Math.PI * 220 * t) + 0.02 * Math.sin(2 * Math.PI * 313 * t));
    const first = (prefer: "short" | "long") => {
      const [c] = findLoops(sound(tone), { prefer }).candidates;
      return c ? (c.end - c.start) / RATE : 0;
    };
    expect(first("short")).toBeLessThan(0.5);
    expect(first("long")).toBeGreaterThan(1.5);
  });
});
