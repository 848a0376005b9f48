import { FIND_DEFAULTS, findAttacks, findSlices, measureFlux, measureLevels } from "../core/analysis";
import { type Figure, round } from "./figure";
import { makeTake, RATE } from "./hits";

/** How far a found onset may be from a true one to be its answer. */
const REACH = 0.05 * RATE;

interface Score {
  missed: number;
  invented: number;
  close: number;
  all: number;
}

function score(found: readonly number[], truth: readonly number[], into: Score): void {
  const used = new Set<number>();
  for (const onset of truth) {
    let best = -1;
    found.forEach((at, i) => {
      if (
        !used.has(i) &&
        Math.abs(at - onset) < REACH &&
        (best < 0 || Math.abs(at - onset) < Math.abs((found[best] ?? 0) - onset))
      )
        best = i;
    });
    into.all++;
    if (best < 0) {
      into.missed++;
      continue;
    }
    used.add(best);
    if (Math.abs((found[best] ?? 0) - onset) <= 0.005 * RATE) into.close++;
  }
  into.invented += found.length - used.size;
}

const empty = (): Score => ({ missed: 0, invented: 0, close: 0, all: 0 });
const percent = (s: Score) => round((100 * s.close) / Math.max(1, s.all - s.missed));

/** Onsets of generated hits, found by level where they are separated and by attack where they ring into one another. */
export async function onsets(): Promise<Figure[]> {
  const level = empty();
  const apart = empty();
  const ringing = empty();
  for (const noise of [-70, -60, -50, -40]) {
    for (let seed = 1; seed <= 3; seed++) {
      const separated = makeTake(seed * 100 - noise, noise, true);
      const levels = measureLevels(separated.samples, RATE);
      // What is softer than the room allows cannot be asked for: the threshold goes down with the noise.
      const found = findSlices(levels, { ...FIND_DEFAULTS, threshold: noise >= -45 ? 10 : 16, minLength: 0.03 });
      score(
        found.map((s) => s.onset),
        separated.onsets,
        level,
      );
      const flux = measureFlux(separated.samples, RATE, levels.floor);
      score(findAttacks(flux, levels, 0.5, 0.05), separated.onsets, apart);
      const mixed = makeTake(seed * 200 - noise, noise, false);
      const mixedLevels = measureLevels(mixed.samples, RATE);
      const mixedFlux = measureFlux(mixed.samples, RATE, mixedLevels.floor);
      score(findAttacks(mixedFlux, mixedLevels, 0.5, 0.05), mixed.onsets, ringing);
    }
  }
  const tell = (s: Score) => `${s.missed} missed, ${s.invented} invented of ${s.all}; ${percent(s)} % within 5 ms`;
  return [
    {
      name: "onsets of separated hits, by level",
      value: level.missed + level.invented,
      unit: "missed or invented",
      against: tell(level),
      hold: "0 missed, 0 invented, ≥ 95 % within 5 ms",
      pass: level.missed + level.invented === 0 && percent(level) >= 95,
    },
    {
      name: "onsets of separated hits, by attack",
      value: apart.missed + apart.invented,
      unit: "missed or invented",
      against: tell(apart),
      hold: "report",
      pass: true,
    },
    {
      name: "onsets of hits that ring into one another, by attack",
      value: ringing.missed + ringing.invented,
      unit: "missed or invented",
      against: tell(ringing),
      hold: "report",
      pass: true,
    },
  ];
}
