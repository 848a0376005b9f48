import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { BitReader } from "./bit-reader";
import { BitWriter } from "./bit-writer";

const piece = fc.oneof(
  fc.integer({ min: 0, max: 32 }).chain((count) =>
    fc.record({
      kind: fc.constant("plain" as const),
      count: fc.constant(count),
      value: fc.integer({ min: 0, max: 2 ** count - 1 }),
    }),
  ),
  fc.integer({ min: 1, max: 32 }).chain((count) =>
    fc.record({
      kind: fc.constant("signed" as const),
      count: fc.constant(count),
      value: fc.integer({ min: -(2 ** (count - 1)), max: 2 ** (count - 1) - 1 }),
    }),
  ),
  fc.record({
    kind: fc.constant("rice" as const),
    count: fc.integer({ min: 0, max: 30 }),
    value: fc.oneof(fc.integer({ min: 0, max: 300 }), fc.integer({ min: 0, max: 5000 })),
  }),
  // Long runs of zeros, and numbers of 31 bits.
  fc.record({
    kind: fc.constant("rice" as const),
    count: fc.constant(24),
    value: fc.integer({ min: 0, max: 2 ** 31 - 1 }),
  }),
);

test("what is written is read back, bit for bit, in any mixture", () => {
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 60 }), (pieces) => {
      const out = new BitWriter();
      for (const { kind, count, value } of pieces) {
        if (kind === "plain") out.write(value, count);
        else if (kind === "signed") out.signed(value, count);
        else out.rice(value, count);
      }
      out.align();
      const back = new BitReader(out.bytes.slice(0, out.length));
      for (const { kind, count, value } of pieces) {
        if (kind === "plain") expect(back.unsigned(count)).toBe(value);
        else if (kind === "signed") expect(back.signed(count)).toBe(value);
        else expect(back.zeros() * 2 ** count + back.unsigned(count)).toBe(value);
      }
    }),
    { numRuns: 300, seed: 8 },
  );
});

test("it grows beyond its first bytes, and ends on a whole byte", () => {
  const out = new BitWriter();
  for (let i = 0; i < 70001; i++) out.write(i & 1, 1);
  out.align();
  out.align();
  expect(out.length).toBe(8751);
  for (let i = 0; i < 200000; i++) out.write(i & 255, 8);
  expect(out.length).toBe(208751);
  expect([...out.bytes.subarray(0, 2), ...out.bytes.subarray(8751, 8754)]).toEqual([0x55, 0x55, 0, 1, 2]);
});
