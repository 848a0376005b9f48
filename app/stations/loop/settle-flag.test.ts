import { expect, test } from "@jest/globals";
import { nearestCrossing, settledFlag, wholePeriods } from "./settle-flag";

const sine = Float32Array.from({ length: 4000 }, (_, i) => Math.sin((2 * Math.PI * (i - 37.5)) / 100));

test("a flag goes to the nearest rising zero crossing, or stays where there is none", () => {
  for (const frame of [90, 100, 130, 170, 188, 1234]) {
    const at = nearestCrossing(sine, frame);
    expect((at - 38) % 100).toBe(0);
    expect(Math.abs(at - frame)).toBeLessThanOrEqual(50);
  }
  expect(nearestCrossing(new Float32Array(5000), 2000)).toBe(2000);
});

test("whole periods from the other end, on either side, never none", () => {
  expect(wholePeriods(1260, 1000, 100.5)).toBe(1000 + 302);
  expect(wholePeriods(1010, 1000, 100.5)).toBe(1101);
  expect(wholePeriods(700, 1000, 100.5)).toBe(1000 - 301);
});

test("what isn't known leaves it where it is", () => {
  const known = { period: 100, beat: { frames: 50.5, origin: 7, bar: 4 } };
  const none = { period: null, beat: null };
  expect(settledFlag("nothing", 130, 0, sine, known)).toBe(130);
  expect(settledFlag("zero", 130, 0, null, known)).toBe(130);
  expect(settledFlag("zero", 130, 0, sine, none)).toBe(138);
  expect(settledFlag("period", 130, 0, sine, none)).toBe(130);
  expect(settledFlag("period", 130, 0, sine, known)).toBe(100);
  expect(settledFlag("beat", 130, 0, sine, known)).toBe(108);
  expect(settledFlag("beat", 130, 0, sine, none)).toBe(130);
});
