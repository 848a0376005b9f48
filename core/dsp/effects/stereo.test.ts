import { expect, test } from "@jest/globals";
import { through } from "./effect-bench";
import { Stereo } from "./stereo";

test("width: nothing but the middle, as it was, nothing but the side; balance takes one side down", () => {
  const out = (width: number, balance: number) => {
    const stereo = new Stereo();
    stereo.tune(width, balance, 0);
    const [left, right] = through(stereo, new Float32Array(64).fill(0.8), new Float32Array(64).fill(0.2));
    return [left[40], right[40]].map((x) => Math.round((x as number) * 1000) / 1000);
  };
  expect(out(0, 0)).toEqual([0.5, 0.5]);
  expect(out(1, 0)).toEqual([0.8, 0.2]);
  expect(out(2, 0)).toEqual([0.3, -0.3]);
  expect(out(1, 0.5)).toEqual([0.4, 0.2]);
  expect(out(1, -1)).toEqual([0.8, 0]);
});
