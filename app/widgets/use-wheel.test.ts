import { expect, test } from "@jest/globals";
import { Notches } from "./use-wheel";

test("a wheel's notch is one step, whatever its browser says it is long", () => {
  for (const delta of [100, 120]) expect(new Notches().add(delta, 0)).toBe(1);
  expect(new Notches().add(-100, 0)).toBe(-1);
  expect(new Notches().add(3, 1)).toBe(1);
  expect(new Notches().add(-1, 2)).toBe(-1);
  expect(new Notches().add(300, 0)).toBe(3);
});

test("a trackpad's small steps are summed, and a turn back begins anew", () => {
  const sum = new Notches();
  const taken = [12, 12, 12, 12, 12, -4, -30, -20].map((delta) => sum.add(delta, 0));
  expect(taken).toEqual([0, 0, 0, 0, 1, 0, 0, -1]);
});
