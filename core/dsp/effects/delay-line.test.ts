import { expect, test } from "@jest/globals";
import { DelayLine } from "./delay-line";

test("a delay line is exact at whole distances, and between them as good as a cubic", () => {
  const line = new DelayLine(100);
  const f = (t: number) => Math.sin(0.2 * t);
  for (let i = 0; i < 300; i++) line.write(f(i));
  expect(line.between(40)).toBeCloseTo(f(259), 6);
  for (const d of [1.5, 17.25, 60.9]) expect(Math.abs(line.between(d) - f(299 - d))).toBeLessThan(2e-4);
});
