import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { ByteReader } from "./byte-reader";
import { FormatError } from "./format-error";

test("numbers are read in either order of bytes, also from the midst of a larger buffer", () => {
  const bytes = Uint8Array.of(9, 9, 1, 2, 3, 4, 0xff, 0xff, 0xff, 0xfe, 82, 73, 70, 70).subarray(2);
  const little = new ByteReader(bytes);
  expect([little.u16(), little.u16(), little.i32(), little.tag(), little.left]).toEqual([
    0x0201,
    0x0403,
    -16777217,
    "RIFF",
    0,
  ]);
  const big = new ByteReader(bytes, false);
  expect([big.u32(), big.i32()]).toEqual([0x01020304, -2]);
});

test("whatever is asked for, nothing is read past the end: a FormatError says where", () => {
  const reads: ((r: ByteReader, n: number) => unknown)[] = [
    (r) => r.u8(),
    (r) => r.u16(),
    (r) => r.u32(),
    (r) => r.i32(),
    (r, n) => r.text(n),
    (r, n) => r.part(n),
    (r, n) => r.skip(n),
  ];
  fc.assert(
    fc.property(
      fc.uint8Array({ maxLength: 20 }),
      fc.array(fc.tuple(fc.nat(6), fc.nat(30)), { maxLength: 12 }),
      (bytes, steps) => {
        const reader = new ByteReader(bytes);
        for (const [which, length] of steps) {
          const before = reader.offset;
          try {
            reads[which]?.(reader, length);
            expect(reader.offset).toBeLessThanOrEqual(bytes.length);
          } catch (error) {
            expect(error).toBeInstanceOf(FormatError);
            expect(error).toMatchObject({ code: "truncated", offset: before });
            expect(reader.offset).toBe(before);
          }
        }
      },
    ),
  );
});
