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
