import { expect, test } from "@jest/globals";
import { AnyFft } from "./fft-any";
import { seededRandom } from "./random";

test.each([1, 2, 3, 17, 64, 600, 1777, 8191])("a transform of %d numbers is the sum that it stands for", (size) => {
  const random = seededRandom(size);
  const re = Float64Array.from({ length: size }, () => random() * 2 - 1);
  const im = Float64Array.from({ length: size }, () => random() * 2 - 1);
  const [x, y] = [re.slice(), im.slice()];
  const transform = new AnyFft(size);
  transform.forward(re, im);
  for (const k of new Set([0, 1, 2, size >> 1, size - 1].filter((bin) => bin < size))) {
    let [a, b] = [0, 0];
    for (let n = 0; n < size; n++) {
      const angle = (-2 * Math.PI * ((k * n) % size)) / size;
      a += (x[n] as number) * Math.cos(angle) - (y[n] as number) * Math.sin(angle);
      b += (x[n] as number) * Math.sin(angle) + (y[n] as number) * Math.cos(angle);
    }
    expect(re[k]).toBeCloseTo(a, 8);
    expect(im[k]).toBeCloseTo(b, 8);
  }
  // Again, with the same tables, it is the same: it holds nothing of what it transforms.
  const again = [x.slice(), y.slice()] as const;
  transform.forward(...again);
  expect(again[0]).toEqual(re);
});

test.each([0, -3, 2.5, Number.NaN])("a size of %d is refused", (size) => {
  expect(() => new AnyFft(size)).toThrow(RangeError);
});
