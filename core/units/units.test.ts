import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  clampValue,
  formatNumber,
  formatValue,
  parseNumber,
  parseValue,
  travelOf,
  typedBeyond,
  valueAt,
} from "../params";
import { BEATS, beatsOf } from "./beat";
import { choiceAt, choiceIds, UNITS, type UnitKind, unitSpec } from "./list";

const numbers = (Object.keys(UNITS) as UnitKind[]).flatMap((kind) =>
  UNITS[kind].params.flatMap((spec) => (spec.type === "number" ? [[`${kind}/${spec.id}`, spec] as const] : [])),
);

/** Units that are shown and played as whole numbers. */
const WHOLE = new Set<string>(["count", "note", "controller", "optional"]);

test("a controller that is dragged is called what it is taken for", () => {
  expect([-1, -0.6, -0.5, -0.3, 0.4, 0.6].map((x) => formatNumber("controller", x))).toEqual([
    "none",
    "none",
    "CC 0",
    "CC 0",
    "CC 0",
    "CC 1",
  ]);
});

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
        if (spec.unit === "switch") return expect(back).toBe(value < 0.5 ? 0 : 1);
        if (WHOLE.has(spec.unit)) {
          // Half way between two whole numbers either is the nearest.
          expect(Number.isInteger(back)).toBe(true);
          expect(Math.abs(Number(back) - clampValue(spec, value))).toBeLessThanOrEqual(0.5 + 1e-9);
          return;
        }
        expect(Math.abs(travelOf(spec, Number(back)) - t)).toBeLessThanOrEqual(0.02 + 1e-9);
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
    ["switch", "on", 1],
    ["switch", "Off", 0],
    ["switch", "0", 0],
    ["pan", "L 20", -0.2],
    ["pan", "right 35 %", 0.35],
    ["pan", "centre", 0],
    ["semitones", "1 oct", 12],
    ["hertz", "1e9", 1e9],
    ["hertz", "1.5e3 Hz", 1500],
    ["hertz", "1k2", 1200],
    ["hertz", "4k7Hz", 4700],
    ["count", "1.234,5", 1234.5],
    ["count", "1,234.5", 1234.5],
    ["count", "-1.234.567,25", -1234567.25],
    ["count", "1.234.567", 1234567],
    ["count", "12'000", 12000],
    ["count", "1.234", 1.234],
    ["count", "60,5", 60.5],
    ["count", "1,2,3", null],
    ["seconds", "1k2", null],
    ["hertz", "loud", null],
    ["seconds", "5 dB", null],
  ] as const)("%s: %s", (unit, text, value) => {
    const parsed = parseNumber(unit, text);
    if (value === null) expect(parsed).toBeNull();
    else expect(parsed).toBeCloseTo(value, 9);
  });

  test.each(["-5", "1e9", "-1e9", "0"])("%s is limited to what there is, on either side, and known to be", (text) => {
    const spec = unitSpec("filter").params.find((p) => p.id === "cutoff");
    if (spec?.type !== "number") throw new Error("a cutoff is a number");
    expect(typedBeyond(spec, text)).toBe(true);
    expect([spec.min, spec.max]).toContain(parseValue(spec, text));
    for (const fine of [formatValue(spec, spec.min), formatValue(spec, spec.max), "A4", "1k"])
      expect(typedBeyond(spec, fine)).toBe(false);
  });

  test("no value is shown as minus zero", () => {
    expect(formatNumber("decibels", -0.001)).toBe("0.0 dB");
  });
});

describe("choices by their numbers", () => {
  test("a number leads to its choice and back", () => {
    expect(choiceIds("filter", "slope")).toEqual(["6", "12", "18", "24"]);
    for (const id of choiceIds("lfo", "shape"))
      expect(choiceIds("lfo", "shape")[choiceAt("lfo", "shape", id)]).toBe(id);
    expect(choiceAt("play", "voiceMode", "legato")).toBe(2);
  });

  test("note values have the beats that their names say", () => {
    const ids = choiceIds("lfo", "sync");
    expect(BEATS).toHaveLength(ids.length);
    ids.forEach((id, i) => {
      const value = /^(\d+)(?:\/(\d+))?([.t]?)$/.exec(id);
      const whole = value ? (4 * Number(value[1])) / Number(value[2] ?? 1) : 0;
      const beats = value?.[3] === "." ? whole * 1.5 : value?.[3] === "t" ? (whole * 2) / 3 : whole;
      expect(BEATS[i]).toBeCloseTo(beats, 9);
      expect(beatsOf(id)).toBe(BEATS[i]);
    });
    // A quarter at 120 beats a minute is 2 Hz.
    expect(120 / 60 / beatsOf("1/4")).toBeCloseTo(2, 9);
  });
});
