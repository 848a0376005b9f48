import { describe, expect, test } from "@jest/globals";
import { PHASES } from "./kernels/layout";
import { banksOf, interpolate, MOST_TAPS, type SincBank } from "./sinc";

const banks = banksOf();

/** Gain at a frequency in cycles per frame, as the mean over all phases, in decibels. */
function gainAt(bank: SincBank, frequency: number): number {
  let re = 0;
  let im = 0;
  for (let p = 0; p < PHASES; p++) {
    for (let t = 0; t < bank.taps; t++) {
      const distance = t - (bank.taps / 2 - 1) - p / PHASES;
      const weight = bank.rows[p * bank.taps * 2 + t] as number;
      re += weight * Math.cos(2 * Math.PI * frequency * distance);
      im += weight * Math.sin(2 * Math.PI * frequency * distance);
    }
  }
  return 20 * Math.log10(Math.hypot(re, im) / PHASES);
}

describe.each(banks.map((b) => [b.upTo, b] as const))("the bank up to rate %f", (_, bank) => {
  test("passes a constant unchanged at every phase", () => {
    for (let i = 0; i < 200; i++) expect(interpolate(bank, () => 0.7, 50 + i / 200)).toBeCloseTo(0.7, 6);
  });

  test("its images are gone: at and beyond 0.73 of the sample rate less than −90 dB", () => {
    for (const frequency of [0.73, 0.8, 0.9, 1, 1.3]) expect(gainAt(bank, frequency)).toBeLessThan(-90);
  });

  test("the straight lines between phases meet to within a hundred thousandth", () => {
    for (const p of [0, 1, 100, PHASES - 2]) {
      for (let t = 0; t < bank.taps; t++) {
        const row = p * bank.taps * 2;
        const end = (bank.rows[row + t] as number) + (bank.rows[row + bank.taps + t] as number);
        expect(Math.abs(end - (bank.rows[row + bank.taps * 2 + t] as number))).toBeLessThan(1e-5);
      }
    }
  });
});

test("faster banks cut lower, and none has more taps than samples are padded for", () => {
  const level = banks.map((b) => gainAt(b, 0.22));
  level.slice(1).forEach((l, i) => {
    expect(l).toBeLessThan((level[i] as number) + 0.01);
  });
  for (const bank of banks) expect(bank.taps).toBeLessThanOrEqual(MOST_TAPS);
});

test("a tone well inside the band is read between its samples to −90 dB", () => {
  const [bank] = banks;
  if (!bank) throw new Error("no bank");
  const places = Array.from({ length: 500 }, (_, i) => 100 + i * 0.137);
  const read = places.map((position) => interpolate(bank, (n) => Math.sin(0.3 * n), position));
  const ideal = places.map((position) => Math.sin(0.3 * position));
  // A gain that is the same everywhere is no distortion: it is taken out.
  const dot = (a: number[], b: number[]) => a.reduce((sum, x, i) => sum + x * (b[i] as number), 0);
  const gain = dot(read, ideal) / dot(ideal, ideal);
  expect(Math.abs(20 * Math.log10(gain))).toBeLessThan(0.01);
  const worst = Math.max(...read.map((x, i) => Math.abs(x - gain * (ideal[i] as number))));
  expect(20 * Math.log10(worst)).toBeLessThan(-90);
});
