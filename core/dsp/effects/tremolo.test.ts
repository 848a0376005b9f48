import { expect, test } from "@jest/globals";
import { RATE, through } from "./effect-bench";
import { Tremolo } from "./tremolo";

test("a tremolo falls by its depth once in a cycle; half a cycle apart the sides take turns", () => {
  const tremolo = new Tremolo(RATE);
  tremolo.tune(0.8, 4, "sine", 0.5);
  const [left, right] = through(tremolo, new Float32Array(RATE).fill(1));
  expect(Math.min(...left)).toBeCloseTo(0.2, 3);
  expect(Math.max(...left)).toBeCloseTo(1, 3);
  for (let i = 3000; i < RATE; i += 777) expect((left[i] as number) + (right[i] as number)).toBeCloseTo(1.2, 3);
});
