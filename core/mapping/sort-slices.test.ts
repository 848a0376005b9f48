import { describe, expect, test } from "@jest/globals";
import type { Slice } from "../instrument";
import { makeShots, readPlan } from "./shots";
import { matrixOf, oddOnes, sortByMeasure, sortByNames, sortByPlan, sortByShots } from "./sort-slices";
import { RATE, slice } from "./test-slices";

const noteOf = (s: Slice) => s.note ?? (s.pitch === null ? null : Math.round(s.pitch));

describe("sorting slices", () => {
  test("by a typed list in order; what is left over is counted; those left out take no entry", () => {
    const read = readPlan("C4 E4 x2");
    if (!read.ok) throw new Error(read.word);
    const slices = [slice(0), slice(1, { keep: false }), slice(2), slice(3)];
    const { roles, over } = sortByPlan(slices, read.plan);
    expect([...roles]).toEqual([
      ["s0", { note: 60, strength: 1, repeat: 1 }],
      ["s2", { note: 60, strength: 1, repeat: 2 }],
      ["s3", { note: 64, strength: 1, repeat: 1 }],
    ]);
    expect(over).toBe(1);
    const shots = makeShots(read.plan).map((s, i) => ({ ...s, state: i === 1 ? ("skipped" as const) : s.state }));
    expect([...sortByShots(slices, shots).roles.values()].map((r) => [r.note, r.repeat])).toEqual([
      [60, 1],
      [64, 1],
      [64, 2],
    ]);
  });

  test("by pitch and level, and by the names of markers", () => {
    const measured = [-30, -12, -31, -12.5].map((loudness, i) => slice(i, { loudness }));
    const { roles } = sortByMeasure(measured, noteOf);
    expect(measured.map((s) => [roles.get(s.id)?.strength, roles.get(s.id)?.repeat])).toEqual([
      [1, 1],
      [2, 1],
      [1, 2],
      [2, 2],
    ]);
    const markers = ["A#2 s2 r3", "wheel_62_soft", "nothing"].map((name, i) => ({ at: i * 1000, length: 0, name }));
    const named = sortByNames(measured.slice(0, 3), markers, RATE);
    expect([...named.roles.values()]).toEqual([
      { note: 46, strength: 2, repeat: 3 },
      { note: 62, strength: 1, repeat: 1 },
    ]);
    expect(named.over).toBe(-1);
  });

  test("the matrix says what is missing; the odd one differs from its siblings by level, length or tone", () => {
    const slices = [
      ...[1, 2, 3].map((repeat) => slice(repeat, { note: 60, strength: 1, repeat })),
      ...[1, 2, 3].map((repeat) =>
        slice(10 + repeat, { note: 60, strength: 2, repeat, loudness: repeat === 2 ? -9 : -15 }),
      ),
      ...[1, 2].map((repeat) => slice(20 + repeat, { note: 62, strength: 1, repeat })),
      slice(31, { note: 62, strength: 2, repeat: 1, keep: false }),
    ];
    const matrix = matrixOf(slices, noteOf);
    expect(matrix.rows.map((r) => [r.note, r.cells.map((c) => c.length)])).toEqual([
      [60, [3, 3]],
      [62, [2, 1]],
    ]);
    expect([matrix.strengths, matrix.repeats, matrix.missing]).toEqual([2, 3, 4]);
    expect([...oddOnes(slices, noteOf)]).toEqual([["s12", "6.0 dB louder than its siblings"]]);
    const short = slices.map((s) => (s.id === "s1" ? { ...s, end: s.start + 200, tone: 90 } : s));
    expect(oddOnes(short, noteOf).get("s1")).toBe("25 % as long, brighter than its siblings");
  });
});
