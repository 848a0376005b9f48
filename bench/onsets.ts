import {
  doubtsOf,
  FIND_DEFAULTS,
  findAttacks,
  findSlices,
  measureFlux,
  measureLevels,
  measureSlices,
} from "../core/analysis";
import { seededRandom } from "../core/audio";
import { type Figure, round } from "./figure";
import { makeTake, RATE, TAKES } from "./hits";

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
    ...takesOfAllKinds(),
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

/** Takes as people record them, with accidents among the sounds, at the settings that everybody begins with: what is found, and what is proposed for leaving out. */
function takesOfAllKinds(): Figure[] {
  return Object.entries(TAKES).map(([name, make]) => {
    const found = empty();
    let left = 0;
    let caught = 0;
    let accidents = 0;
    for (const noise of [-60, -50]) {
      for (let seed = 1; seed <= 3; seed++) {
        const take = make(seededRandom(seed * 31 - noise), noise);
        const audio = { rate: RATE, channels: [take.samples] };
        const slices = measureSlices(audio, findSlices(measureLevels(take.samples, RATE), FIND_DEFAULTS));
        const doubts = doubtsOf(slices);
        const near = (at: number, other: number) => Math.abs(at - other) < REACH;
        const isAccident = (onset: number) => take.accidents.some((a) => near(a.at, onset));
        score(
          slices.filter((s) => !isAccident(s.onset)).map((s) => s.onset),
          take.onsets,
          found,
        );
        left += slices.filter((s, i) => doubts[i] !== "" && take.onsets.some((at) => near(at, s.onset))).length;
        accidents += take.accidents.length;
        // One that isn't found at all does no harm either.
        caught += take.accidents.filter((a) => slices.every((s, i) => !near(a.at, s.onset) || doubts[i] !== "")).length;
      }
    }
    const good = found.missed + found.invented + left;
    const share = accidents === 0 ? 100 : round((100 * caught) / accidents);
    return {
      name: `sounds of takes: ${name}`,
      value: good,
      unit: "missed, invented or left out",
      against: `${found.missed} missed, ${found.invented} invented, ${left} good ones left out of ${found.all}; ${percent(found)} % within 5 ms; ${caught} of ${accidents} accidents proposed for leaving out`,
      hold: "0 missed, 0 invented, 0 good ones left out, ≥ 98 % within 5 ms, ≥ 90 % of accidents",
      pass: good === 0 && percent(found) >= 98 && share >= 90,
    };
  });
}
