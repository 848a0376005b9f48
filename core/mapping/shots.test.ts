import { describe, expect, test } from "@jest/globals";
import { makeShots, nameOfStrength, nextShot, readPlan } from "./shots";

describe("shot lists", () => {
  test("velocity layers are `v2`, and were `s2`", () => {
    expect(readPlan("C3 s3")).toEqual(readPlan("C3 v3"));
    expect(readPlan('"v2" C3')).toMatchObject({ plan: { notes: ["v2", 48], strengths: 1 } });
  });

  test("notes, ranges, names, repeats and velocity layers are read in order", () => {
    const read = readPlan('C3 D#3..A3/3, "brake lever" chain x2 v2');
    if (!read.ok) throw new Error(read.word);
    expect(read.plan).toEqual({ notes: [48, 51, 54, 57, "brake lever", "chain"], strengths: 2, repeats: 2 });
    const shots = makeShots(read.plan);
    expect(shots).toHaveLength(24);
    expect(shots.slice(0, 5).map((s) => [s.name, s.strength, s.repeat])).toEqual([
      ["C3", 1, 1],
      ["C3", 1, 2],
      ["C3", 2, 1],
      ["C3", 2, 2],
      ["D#3", 1, 1],
    ]);
    expect(shots.at(-1)).toMatchObject({ name: "chain", note: null });
    expect(new Set(shots.map((s) => s.id)).size).toBe(24);
    expect(readPlan("C3 ?")).toEqual({ ok: false, word: "?" });
    expect(readPlan("x3")).toEqual({ ok: false, word: "x3" });
    expect(nameOfStrength(2, 2)).toBe("hard");
    expect(nameOfStrength(3, 9)).toBe("velocity layer 3 of 9");
  });

  test("the next entry is the first open one from a place on, then from the beginning", () => {
    const shots = makeShots({ notes: [60, 62, 64], strengths: 1, repeats: 1 }).map((s, i) => ({
      ...s,
      state: i === 1 ? ("done" as const) : s.state,
    }));
    expect(nextShot(shots)?.name).toBe("C4");
    expect(nextShot(shots, 1)?.name).toBe("E4");
    expect(nextShot(shots.map((s) => ({ ...s, state: "skipped" as const })))).toBeNull();
  });
});
