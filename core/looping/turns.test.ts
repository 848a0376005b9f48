import { describe, expect, test } from "@jest/globals";
import { findLoops } from "./find-loops";
import { made, RATE } from "./test-sounds";

const sound = (...channels: readonly Float32Array[]) => ({ rate: RATE, channels: [...channels] });

describe("there and back", () => {
  test("a swell may turn where it is its own mirror image; its level never steps", () => {
    // Its one turn is at 2.5 s: a loop forward steps in level, unless it is short.
    const swell = made(4, (t) => (0.3 + 0.1 * Math.cos(2 * Math.PI * 0.2 * t)) * Math.cos(2 * Math.PI * 330 * t));
    const { candidates } = findLoops(sound(swell), { mostPulse: 30, count: 12 });
    const back = candidates.filter((c) => c.mode === "alternating");
    expect(back.length).toBeGreaterThan(0);
    for (const c of back) {
      expect(c.parts.alike).toBeGreaterThan(0.9);
      expect(c.parts.change).toBeLessThan(1.6);
      expect(c.reason).toMatch(/ping-pong/);
    }
  });
});
