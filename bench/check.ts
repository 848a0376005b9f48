import {
  addSamples,
  type Instrument,
  newInstrument,
  newSample,
  newZone,
  placeZones,
  together,
} from "../core/instrument";
import { checkMap } from "../core/mapping";
import { type Figure, round } from "./figure";

/** An instrument of so many zones: 128 keys, 20 strengths, and as many repeats as it takes. */
function many(count: number): Instrument {
  const samples = Array.from({ length: count }, (_, i) =>
    newSample({ sha: i.toString(16).padStart(64, "0"), name: `s${i}`, frames: 1000, pitch: i % 128, confidence: 0.9 }),
  );
  const zones = samples.map((s, i) => {
    const strength = Math.floor(i / 128) % 20;
    return newZone({
      id: `z${i}`,
      sample: s.sha,
      end: 1000,
      root: i % 128,
      keyLow: i % 128,
      keyHigh: i % 128,
      velLow: 1 + strength * 6,
      velHigh: 6 + strength * 6,
      repeat: 1 + Math.floor(i / 2560),
    });
  });
  return together("", [addSamples(samples), placeZones("main", "main", zones, true)]).apply(newInstrument("i", "Many"));
}

/** How long judging a map of 5,000 zones takes, and cloning it for the worker. */
export function check(): Figure[] {
  const doc = many(5000);
  const timed = (work: () => unknown): number => {
    const times = Array.from({ length: 9 }, () => {
      const began = performance.now();
      work();
      return performance.now() - began;
    });
    return round(times.sort((a, b) => a - b)[4] ?? 0);
  };
  const judging = timed(() => checkMap(doc));
  const cloning = timed(() => structuredClone({ ...doc, takes: [] }));
  return [
    { name: "a map of 5,000 zones judged anew", value: judging, unit: "ms", hold: "≤ 100", pass: judging <= 100 },
    { name: "and handed to its worker", value: cloning, unit: "ms", hold: "≤ 50", pass: cloning <= 50 },
  ];
}
