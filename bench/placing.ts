import { readNames, weigh } from "../core/mapping";
import { HABITS, type Named, setByHabit } from "../core/mapping/reading/test-habits";
import { type Figure, round } from "./figure";

const SEEDS = 12;

/** The rank of each sound among its mates by what was read of it, from 1. */
function ranks(values: readonly number[], cells: readonly string[]): number[] {
  const mates = new Map<string, number[]>();
  for (const [n, cell] of cells.entries()) mates.set(cell, [...(mates.get(cell) ?? []), values[n] as number]);
  return cells.map((cell, n) => new Set((mates.get(cell) ?? []).filter((m) => m < (values[n] as number))).size + 1);
}

interface Count {
  wrong: number;
  unmarked: number;
}

/** Sets of sounds named by many habits: how many notes, strengths and repeats are read wrong; a wrong one that wasn't doubted counts twice. */
export function placing(): Figure[] {
  const counts: Record<"notes" | "strengths" | "repeats", Count> = {
    notes: { wrong: 0, unmarked: 0 },
    strengths: { wrong: 0, unmarked: 0 },
    repeats: { wrong: 0, unmarked: 0 },
  };
  let total = 0;
  let worst = { name: "", wrong: 0 };
  const began = performance.now();
  for (const habit of HABITS) {
    let wrong = 0;
    let here = 0;
    for (let seed = 1; seed <= SEEDS; seed++) {
      const sounds: readonly Named[] = setByHabit(habit, 1000 * seed + 7);
      const weighed = weigh(
        sounds.map((s) => ({ ...s, root: null })),
        readNames(sounds)[0] ?? null,
      );
      const strengths = ranks(
        weighed.map((w) => w.strength ?? 0),
        sounds.map((s) => `${s.note}`),
      );
      const repeats = ranks(
        weighed.map((w) => w.repeat ?? 0),
        sounds.map((s) => `${s.note} ${s.strength}`),
      );
      sounds.forEach((s, n) => {
        const marked = (weighed[n]?.doubt ?? "") !== "";
        const look = (count: Count, right: boolean): void => {
          if (right) return;
          count.wrong++;
          wrong++;
          if (!marked) count.unmarked++;
        };
        look(counts.notes, weighed[n]?.note === s.note);
        look(counts.strengths, strengths[n] === s.strength);
        look(counts.repeats, repeats[n] === s.repeat);
      });
      here += sounds.length;
    }
    total += here;
    if (wrong / here > worst.wrong) worst = { name: habit.name, wrong: wrong / here };
  }
  const took = performance.now() - began;
  const share = ({ wrong, unmarked }: Count): number => round(100 * (1 - (wrong + unmarked) / total));
  const figure = (what: "notes" | "strengths" | "repeats", least: number): Figure => ({
    name: `${what} read from names by ${HABITS.length} habits (${total} files, ${counts[what].wrong} wrong, ${counts[what].unmarked} of them not doubted)`,
    value: share(counts[what]),
    unit: "%",
    against: worst.name === "" ? "none wrong" : `worst: ${worst.name}`,
    hold: `at least ${least} %`,
    pass: share(counts[what]) >= least,
  });
  return [
    figure("notes", 99),
    figure("strengths", 97),
    figure("repeats", 97),
    { name: "reading names", value: round(took / total), unit: "ms a file", hold: "none", pass: true },
  ];
}
