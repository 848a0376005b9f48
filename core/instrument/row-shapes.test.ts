import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../audio";
import { type TableSpec, UNITS } from "../units";
import {
  everyNth,
  fannedOut,
  harmonics,
  pulledToHarmonics,
  pulledToOctaves,
  randomised,
  risingLater,
  sortedByRatio,
  sparingLocked,
  tilted,
} from "./row-shapes";

const MODES: TableSpec = UNITS.resonator.table;
const PARTIALS: TableSpec = UNITS.partials.table;
const modes = [
  { ratio: 1, level: 0, decay: 2 },
  { ratio: 2.03, level: -6, decay: 1 },
  { ratio: 2.76, level: -9, decay: 1 },
  { ratio: 3.9, level: -20, decay: 0.5 },
];

describe("what is done to all rows at once", () => {
  test("harmonics: those that are there keep what they have", () => {
    const made = harmonics(4)([{ ratio: 2.001, level: -3, decay: 1.5 }], MODES);
    expect(made.map((r) => r.ratio)).toEqual([1, 2, 3, 4]);
    expect(made[1]).toMatchObject({ ratio: 2, level: -3, decay: 1.5 });
    expect(made[2]?.level).toBeCloseTo(-9.54, 2);
    for (const spec of [PARTIALS, MODES]) {
      // As many as there may be, each at a ratio of its own.
      const all = harmonics(1e6)([], spec);
      expect(all.map((r) => r.ratio)).toEqual(Array.from({ length: spec.most }, (_, i) => i + 1));
    }
    expect(harmonics(0)(modes, MODES)).toHaveLength(1);
  });

  test("pulled to harmonics or octaves where they are near, else left", () => {
    expect(pulledToHarmonics(50)(modes, MODES).map((r) => r.ratio)).toEqual([1, 2, 2.76, 4]);
    expect(pulledToOctaves(30)(modes, MODES).map((r) => r.ratio)).toEqual([1, 2, 2.76, 3.9]);
    expect(pulledToOctaves(50)(modes, MODES).map((r) => r.ratio)).toEqual([1, 2, 2.76, 4]);
    expect(pulledToOctaves(50)([], MODES)).toEqual([]);
  });

  test("tilted: by octaves of ratio, no louder than before, never out of range", () => {
    const down = tilted(-6)(modes, MODES);
    expect(down[0]?.level).toBe(0);
    expect((down[3]?.level ?? 0) - (modes[3]?.level ?? 0)).toBeCloseTo(-6 * Math.log2(3.9), 6);
    const up = tilted(12)(modes, MODES);
    expect(Math.max(...up.map((r) => r.level ?? 0))).toBeCloseTo(0, 9);
    expect(tilted(-500)(modes, MODES).every((r) => (r.level ?? 0) >= -96)).toBe(true);
  });

  test("every second, places fanned out, in order", () => {
    expect(everyNth(2, 1, -12)(modes, MODES).map((r) => r.level)).toEqual([0, -18, -9, -32]);
    const fan = fannedOut(harmonics(5)([], PARTIALS), PARTIALS).map((r) => r.pan);
    expect(fan.map((p) => Math.abs(p ?? 0))).toEqual([0, 0.25, 0.5, 0.75, 1]);
    expect(sortedByRatio([...modes].reverse(), MODES)).toEqual(modes);
  });

  test("by chance only one column moves, within its range, the same for the same seed", () => {
    const shaken = (seed: number) => randomised("level", 1, seededRandom(seed))(modes, MODES);
    expect(shaken(3)).toEqual(shaken(3));
    expect(shaken(3)).not.toEqual(shaken(4));
    shaken(3).forEach((row, i) => {
      expect({ ...row, level: 0 }).toEqual({ ...modes[i], level: 0 });
      expect(Math.abs((row.level ?? 0) - (modes[i]?.level ?? 0))).toBeLessThanOrEqual(12);
      expect(row.level).toBeLessThanOrEqual(0);
    });
    expect(randomised("place", 1, seededRandom(1))(modes, MODES)).toEqual(modes);
  });

  test("rows that are locked stay as they are, in their places or at their ratios; the others do as ever", () => {
    const rows = modes.map((r, i) => ({ ...r, locked: i === 2 ? 1 : 0 }));
    const softer = sparingLocked(everyNth(1, 0, -6))(rows, MODES);
    expect(softer.map((r) => r.level)).toEqual([-6, -12, -9, -26]);
    const random = sparingLocked(randomised("ratio", 1, seededRandom(3)))(rows, MODES);
    expect(random[2]).toBe(rows[2]);
    expect(random[1]?.ratio).not.toBe(2.03);
    const more = sparingLocked(harmonics(6))(rows, MODES);
    expect(more.map((r) => r.ratio)).toEqual([1, 2, 2.76, 3, 4, 5, 6]);
    expect(more[2]).toBe(rows[2]);
    const most = sparingLocked(harmonics(MODES.most))(rows, MODES);
    expect(most).toHaveLength(MODES.most);
    expect(most).toContain(rows[2]);
    // A locked one takes the place of what would stand at its ratio.
    const third = [{ ratio: 3, level: -1, decay: 9, locked: 1 }];
    expect(sparingLocked(harmonics(4))(third, MODES).map((r) => r.level)).toEqual([
      0,
      expect.closeTo(-6.02, 2),
      -1,
      expect.closeTo(-12.04, 2),
    ]);
    expect(sparingLocked(sortedByRatio)([rows[2] ?? {}, rows[0] ?? {}], MODES)).toEqual([rows[0], rows[2]]);
    expect(
      sparingLocked(harmonics(8))(
        rows.map((r) => ({ ...r, locked: 0 })),
        MODES,
      ),
    ).toHaveLength(8);
  });

  test("the higher the later", () => {
    const made = risingLater(0.1)([{ ratio: 0.5 }, { ratio: 1 }, { ratio: 4 }], PARTIALS);
    expect(made.map((r) => r.attack)).toEqual([0, 0, expect.closeTo(0.2, 9)]);
    // Modes have no such column.
    expect(risingLater(0.1)(modes, MODES)).toEqual(modes);
  });
});
