import { expect, test } from "@jest/globals";
import { newLoop } from "../instrument";
import { copiedLoop } from "./copy-loop";

const place = (start: number, end: number, rate: number, note: number | null) => ({ zone: { start, end }, rate, note });
const from = place(1000, 89200, 44100, 57);
/** 220 periods of A3 (220 Hz), one second after the start. */
const loop = newLoop({ start: 45100, end: 89200, fade: 4410 });

test("by time: as many seconds, whatever the rate", () => {
  const { start, end, fade } = copiedLoop(loop, from, place(0, 200000, 48000, 60), "time");
  expect([start, end, fade]).toEqual([48000, 96000, 4800]);
});

test("by periods: as many of the other's, whole ones stay whole; by time where no pitch is known", () => {
  const up = copiedLoop(loop, from, place(500, 200000, 44100, 69), "periods");
  expect(up.start).toBe(500 + 44100);
  expect(up.end - up.start).toBe(22050);
  expect(up.fade).toBe(2205);
  expect(copiedLoop(loop, from, place(0, 200000, 44100, null), "periods")).toEqual(
    copiedLoop(loop, from, place(0, 200000, 44100, null), "time"),
  );
});

test("by share: at the same place of the whole", () => {
  const { start, end } = copiedLoop(loop, from, place(0, 44100, 44100, 60), "share");
  expect([start, end]).toEqual([22050, 44100]);
});

test("onto itself it is the same", () => {
  for (const by of ["time", "periods", "share"] as const) expect(copiedLoop(loop, from, from, by)).toEqual(loop);
});

test("a level curve belongs to its own sound", () => {
  const even = { ...loop, flat: { amount: 1, from: 0, step: 100, levels: [0, -1] } };
  expect(copiedLoop(even, from, from, "time").flat).toEqual(even.flat);
  expect(copiedLoop(even, from, place(0, 200000, 44100, 57), "time").flat).toBeNull();
});
