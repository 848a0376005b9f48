import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { midiMessages } from "./midi-messages";

const read = (...bytes: number[]) => midiMessages(Uint8Array.from(bytes)).map((m) => [m.status, m.data1, m.data2]);

test("notes, controllers, bend, pressure", () => {
  expect(read(0x90, 60, 100, 0x80, 60, 0, 0xb0, 1, 64, 0xe0, 0, 64, 0xd0, 33)).toEqual([
    [0x90, 60, 100],
    [0x80, 60, 0],
    [0xb0, 1, 64],
    [0xe0, 0, 64],
    [0xd0, 33, 0],
  ]);
});

test("running status, real-time bytes in the midst, system messages and cut ones", () => {
  expect(read(0x91, 60, 0xf8, 100, 62, 101)).toEqual([
    [0x91, 60, 100],
    [0x91, 62, 101],
  ]);
  expect(read(0xf0, 1, 2, 3, 0xf7, 0x90, 60, 1)).toEqual([[0x90, 60, 1]]);
  expect(read(0x90, 60)).toEqual([]);
  expect(read(60, 100)).toEqual([]);
});

test("whatever comes, only whole channel messages come out", () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => {
      for (const m of midiMessages(bytes)) {
        expect(m.status).toBeGreaterThanOrEqual(0x80);
        expect(m.status).toBeLessThan(0xf0);
        expect(m.data1 | m.data2).toBeLessThan(0x80);
      }
    }),
  );
});
