import { describe, expect, test } from "@jest/globals";
import { hertzOf, nameOfNote, noteOf, parseNote } from "./measures";
import { columnPeaks, PEAK_STEP, peaksOf } from "./peaks";
import { seededRandom } from "./random";

describe("notes", () => {
  test("names and numbers are each other's inverse over the whole keyboard", () => {
    for (let note = 0; note <= 127; note++) expect(parseNote(nameOfNote(note))).toBe(note);
    expect(nameOfNote(60)).toBe("C4");
    expect(parseNote("Bb3")).toBe(58);
    expect(parseNote("h3")).toBeNull();
    expect(parseNote("128")).toBeNull();
  });

  test("A4 is 440 Hz and an octave doubles", () => {
    expect(hertzOf(69)).toBe(440);
    expect(hertzOf(81) / hertzOf(69)).toBeCloseTo(2, 12);
    expect(noteOf(hertzOf(43.21))).toBeCloseTo(43.21, 9);
  });
});

describe("peaks", () => {
  const random = seededRandom(3);
  const samples = Float32Array.from({ length: 10007 }, () => random() * 2 - 1);
  const peaks = peaksOf(samples);

  test.each([1, 7, 33, 64, 500, 4096, 20000])("columns of %i frames hold the true extremes", (per) => {
    const columns = Math.ceil(samples.length / per);
    const out = new Float32Array(columns * 2);
    columnPeaks(peaks, 0, columns * per, columns, out, { from: 0, values: samples });
    for (let c = 0; c < columns; c++) {
      const part = samples.subarray(c * per, (c + 1) * per);
      expect(out[2 * c]).toBeLessThanOrEqual(Math.min(...part));
      expect(out[2 * c + 1]).toBeGreaterThanOrEqual(Math.max(...part));
      const wide = samples.subarray(Math.max(0, c * per - per - PEAK_STEP), (c + 2) * per + PEAK_STEP);
      expect(out[2 * c + 1]).toBeLessThanOrEqual(Math.max(0, ...wide));
    }
  });

  test("outside the sound there is silence", () => {
    const out = new Float32Array(4);
    columnPeaks(peaks, -2000, 0, 2, out);
    expect(Array.from(out)).toEqual([0, 0, 0, 0]);
  });
});
