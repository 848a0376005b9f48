import { expect, test } from "@jest/globals";
import { few, grouped, plural } from "./plural";

test("thousands stand apart, as the standard formatter has them", () => {
  for (const n of [0, 7, 99, 100, 999, 1000, 12345, 999999, 1000000, 123456789, -1000, -12])
    expect(grouped(n)).toBe(n.toLocaleString("en"));
});

test("one of a thing has no plural; another plural can be given", () => {
  expect([0, 1, 2, 1200].map((n) => plural(n, "zone"))).toEqual(["0 zones", "1 zone", "2 zones", "1,200 zones"]);
  expect(plural(2, "sound is", "sounds are")).toBe("2 sounds are");
});

test("of many names the first three are told, and how many more there are", () => {
  expect(few([])).toBe("");
  expect(few(["a", "b", "c"])).toBe("a, b, c");
  expect(few(["a", "b", "c", "d"], "; ")).toBe("a; b; c and 1 more");
  expect(few(Array.from({ length: 5003 }, (_, i) => `f${i}`))).toBe("f0, f1, f2 and 5,000 more");
});
