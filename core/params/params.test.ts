import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { UNITS, type UnitKind } from "./registry";
import { travelOf, valueAt } from "./spec";
import { formatNumber, formatValue, parseNumber, parseValue } from "./text";

const numbers = (Object.keys(UNITS) as UnitKind[]).flatMap((kind) =>
  UNITS[kind].params.flatMap((spec) => (spec.type === "number" ? [[`${kind}/${spec.id}`, spec] as const] : [])),
);

describe.each(numbers)("%s", (_, spec) => {
  test("its default lies in its range and its travel goes there and back", () => {
    expect(spec.default).toBeGreaterThanOrEqual(spec.min);
    expect(spec.default).toBeLessThanOrEqual(spec.max);
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (t) => {
        expect(travelOf(spec, valueAt(spec, t))).toBeCloseTo(t, 6);
      }),
    );
  });

  test("what is shown can be typed", () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (t) => {
        const value = valueAt(spec, t);
        const back = parseValue(spec, formatValue(spec, value));
        expect(Math.abs(travelOf(spec, Number(back)) - t)).toBeLessThan(spec.unit === "ratio" ? 0.01 : 0.031);
      }),
    );
  });
});

describe("typed values", () => {
  test.each([
    ["hertz", "440", 440],
    ["hertz", "A4", 440],
    ["hertz", "1.2k", 1200],
    ["hertz", "1,2 kHz", 1200],
    ["decibels", "-6 dB", -6],
    ["decibels", "−6.0 dB", -6],
    ["seconds", "30ms", 0.03],
    ["percent", "50", 0.5],
    ["pan", "L 20", -0.2],
    ["pan", "centre", 0],
    ["semitones", "1 oct", 12],
    ["hertz", "loud", null],
    ["seconds", "5 dB", null],
  ] as const)("%s: %s", (unit, text, value) => {
    const parsed = parseNumber(unit, text);
    if (value === null) expect(parsed).toBeNull();
    else expect(parsed).toBeCloseTo(value, 9);
  });

  test("no value is shown as minus zero", () => {
    expect(formatNumber("decibels", -0.001)).toBe("0.0 dB");
  });
});
