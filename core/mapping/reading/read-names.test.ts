import { describe, expect, test } from "@jest/globals";
import { applyReading } from "./apply-reading";
import { readNames } from "./read-names";
import { HABITS, type Named, setByHabit } from "./test-habits";

/** How much of a set the best reading gets right: shares of notes, strengths and repeats. */
function rightOf(sounds: readonly Named[]): { note: number; strength: number; repeat: number } {
  const [reading] = readNames(sounds);
  if (!reading) return { note: 0, strength: 0, repeat: 0 };
  const { names } = applyReading(reading, sounds);
  const rank = (of: (n: number) => number | null, cell: (s: Named) => string, n: number): number => {
    const value = of(n) ?? 0;
    const mates = sounds.flatMap((s, i) => (cell(s) === cell(sounds[n] as Named) ? [of(i) ?? 0] : []));
    return [...new Set(mates)].filter((m) => m < value).length + 1;
  };
  const count = sounds.length;
  let [note, strength, repeat] = [0, 0, 0];
  sounds.forEach((s, n) => {
    if (names[n]?.note === s.note) note++;
    if (
      rank(
        (i) => names[i]?.strength ?? null,
        (m) => `${m.note}`,
        n,
      ) === s.strength
    )
      strength++;
    if (
      rank(
        (i) => names[i]?.repeat ?? null,
        (m) => `${m.note} ${m.strength}`,
        n,
      ) === s.repeat
    )
      repeat++;
  });
  return { note: note / count, strength: strength / count, repeat: repeat / count };
}

describe("names are read without a scheme", () => {
  test.each(HABITS.map((h) => [h.name, h] as const))("%s", (_, habit) => {
    for (let seed = 1; seed <= 12; seed++) {
      const sounds = setByHabit(habit, seed);
      const right = rightOf(sounds);
      if (Math.min(right.note, right.strength, right.repeat) < 0.97) {
        const [reading] = readNames(sounds);
        const roles = Object.values(reading?.columns ?? {}).map((c) => [
          c.role,
          c.manner,
          JSON.stringify(c.selector),
          c.distinct,
        ]);
        console.log(
          habit.name,
          seed,
          JSON.stringify(right),
          sounds
            .slice(0, 4)
            .map((s) => s.path)
            .join(" | "),
          JSON.stringify(roles),
          reading?.shift,
          reading?.levels,
        );
      }
      expect(Math.min(right.note, right.strength, right.repeat)).toBeGreaterThanOrEqual(0.97);
    }
  });
});
