import { describe, expect, test } from "@jest/globals";
import { newSlice, type Slice } from "../instrument";
import { mergeSlices, sliceId } from "./take";

describe("a new search", () => {
  const slice = (onset: number, change: Partial<Slice> = {}): Slice =>
    newSlice({
      id: sliceId(onset),
      start: onset - 100,
      end: onset + 9000,
      onset,
      pitch: 60,
      confidence: 0.9,
      ...change,
    });

  test("keeps what its owner did: moved edges, typed notes", () => {
    const before = [slice(1000, { edited: true, start: 500 }), slice(20000, { note: 47, keep: false }), slice(40000)];
    const after = mergeSlices(before, [slice(1010), slice(20100), slice(60000)], 44100);
    expect(after.map((s) => [s.id, s.start, s.note, s.keep])).toEqual([
      ["s1000", 500, null, true],
      ["s20000", 20000, 47, false],
      ["s60000", 59900, null, true],
    ]);
  });
});
