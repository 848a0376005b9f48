import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../../audio";
import { bulkValues, parseBulk } from "./bulk-change";
import { zone } from "./test-zones";

describe("numbers of several zones at once", () => {
  const zones = [zone("a", { root: 40, gain: -6 }), zone("b", { root: 50, gain: 0 }), zone("c", { root: 60, gain: 6 })];
  const number = (text: string) =>
    /^-?\d+([.,]\d+)?( dB)?$/.test(text.trim()) ? Number.parseFloat(text.replace(",", ".")) : null;
  const became = (text: string) => {
    const change = parseBulk(text, number);
    return change && [...bulkValues(change, zones, (z) => z.gain, seededRandom(1)).values()];
  };

  test("are set, added to, scaled, run over the keys or scattered", () => {
    expect(became("3")).toEqual([3, 3, 3]);
    expect(became("-3 dB")).toEqual([-3, -3, -3]);
    expect(became("+1,5")).toEqual([-4.5, 1.5, 7.5]);
    expect(became("+−2")).toEqual([-8, -2, 4]);
    expect(became("×0.5")).toEqual([-3, 0, 3]);
    expect(became("*2")).toEqual([-12, 0, 12]);
    expect(became("-10…10")).toEqual([-10, 0, 10]);
    expect(became("0..5")).toEqual([0, 2.5, 5]);
    const scattered = became("±2") ?? [];
    scattered.forEach((x, i) => {
      expect(Math.abs(x - (zones[i]?.gain ?? 0))).toBeLessThanOrEqual(2);
    });
    expect(new Set(scattered.map((x, i) => x - (zones[i]?.gain ?? 0))).size).toBe(3);
  });

  test("that can't be read change nothing", () => {
    for (const text of ["", "+", "×", "loud", "+loud", "1…", "…2", "±"]) expect(became(text)).toBeNull();
  });
});
