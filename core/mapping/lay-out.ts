import { newZone, type Sample, type Zone } from "../instrument";

/** Which keys are taken one after the other: all, the white ones, or every n-th. */
export type KeyStep = "all" | "white" | number;

const WHITE: ReadonlySet<number> = new Set([0, 2, 4, 5, 7, 9, 11]);

/** Keys from one upwards, as many as are wanted or as there are. */
export function keysFrom(from: number, step: KeyStep, count: number): number[] {
  const keys: number[] = [];
  const every = typeof step === "number" ? Math.max(1, Math.round(step)) : 1;
  for (let key = Math.max(0, from); key <= 127 && keys.length < count; key += every)
    if (step !== "white" || WHITE.has(key % 12)) keys.push(key);
  return keys;
}

/** One zone for each sample on a key of its own from a key upwards, sounding there as it is; those for which no key is left get none. */
export function layOnKeys(
  samples: readonly Sample[],
  from: number,
  step: KeyStep,
  idOf: (index: number) => string,
): Zone[] {
  return keysFrom(from, step, samples.length).flatMap((key, i) => {
    const sample = samples[i];
    return sample
      ? [newZone({ id: idOf(i), sample: sample.sha, end: sample.frames, keyLow: key, keyHigh: key, root: key })]
      : [];
  });
}
