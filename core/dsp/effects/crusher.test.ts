import { expect, test } from "@jest/globals";
import { Crusher } from "./crusher";
import { RATE, sine, through } from "./effect-bench";

test("a crusher holds values as long as its rate says, on as many steps as its bits", () => {
  const crusher = new Crusher(RATE);
  crusher.tune(1, 3, 12000);
  const [left] = through(crusher, sine(400, 500));
  for (let i = 0; i < 396; i += 4) expect(new Set(left.subarray(i, i + 4)).size).toBe(1);
  for (const x of left) expect((x * 4) % 1).toBeCloseTo(0, 9);
});
