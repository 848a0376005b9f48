import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { hertzOf } from "../audio";
import { FormatError } from "./format-error";
import { readMapping, readScale, tuneKeys } from "./scala";

const equal = (steps: number): string =>
  `! equal.scl\n!\n${steps} equal steps\n ${steps}\n!\n${Array.from({ length: steps - 1 }, (_, i) => ` ${(((i + 1) * 1200) / steps).toFixed(6)}`).join("\n")}\n 2/1\n`;

describe("scales", () => {
  test("twelve equal steps are the usual tuning", () => {
    for (const [key, note] of tuneKeys(readScale(equal(12))).entries()) expect(note).toBeCloseTo(key, 6);
  });

  test("nineteen equal steps: nineteen keys make an octave, each a nineteenth", () => {
    const keys = tuneKeys(readScale(equal(19)));
    expect(keys[60]).toBeCloseTo(60, 6);
    expect((keys[79] as number) - (keys[60] as number)).toBeCloseTo(12, 6);
    for (let k = 41; k < 100; k++) expect((keys[k] as number) - (keys[k - 1] as number)).toBeCloseTo(12 / 19, 5);
  });

  test("ratios, remarks and windows' line ends", () => {
    const { cents, description } = readScale("just fifth\r\n2\r\n 3/2 the fifth\r\n 2\r\n");
    expect(description).toBe("just fifth");
    expect(cents[0]).toBeCloseTo(701.955, 3);
    expect(cents[1]).toBe(1200);
  });

  test("a mapping: which key is which, what is silent, and the reference pitch", () => {
    // White keys only, seven equal steps, A4 at 432 Hz.
    const map = readMapping("! map\n12\n21\n108\n60\n69\n432.0\n7\n0\nx\n1\nx\n2\n3\nx\n4\nx\n5\nx\n6\n");
    const keys = tuneKeys(readScale(equal(7)), map);
    expect(hertzOf(keys[69] as number)).toBeCloseTo(432, 6);
    expect(keys[61]).toBeNull();
    expect(keys[20]).toBeNull();
    expect((keys[72] as number) - (keys[60] as number)).toBeCloseTo(12, 6);
    expect((keys[62] as number) - (keys[60] as number)).toBeCloseTo(12 / 7, 5);
  });

  test.each([
    "",
    "only words",
    "x\n0\n",
    "x\n3\n100.\n",
    "x\n1\nabc\n",
    "x\n1\n1/0\n",
    "x\n2\n100.0\n-5.0\n",
    "x\n99999\n",
  ])("damage is told: %j", (text) => expect(() => readScale(text)).toThrow(FormatError));

  test("any text gives a scale or a FormatError", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), (text) => {
        for (const read of [readScale, readMapping]) {
          try {
            read(text);
          } catch (error) {
            expect(error).toBeInstanceOf(FormatError);
          }
        }
      }),
    );
  });
});
