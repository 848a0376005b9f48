/** A controller of a keyboard (0 to 127) and the parameter that it moves, by its address. */
export interface Learned {
  readonly controller: number;
  readonly address: string;
}

/** Most that are kept. */
const MOST = 128;

/** What was learnt, with one more: a controller moves one thing, and a thing is moved by one controller. */
export const withLearned = (list: readonly Learned[], learned: Learned): readonly Learned[] =>
  [...list.filter((l) => l.controller !== learned.controller && l.address !== learned.address), learned].slice(-MOST);

/** What was learnt out of text that anybody may have written: what is none is left out. Never throws. */
export function readLearned(text: string): readonly Learned[] {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return [];
  }
  const list: readonly unknown[] = Array.isArray(raw) ? raw : [];
  return list.flatMap((entry): Learned[] => {
    if (typeof entry !== "object" || entry === null) return [];
    const { controller, address } = entry as Record<string, unknown>;
    return Number.isInteger(controller) &&
      Number(controller) >= 0 &&
      Number(controller) < 128 &&
      typeof address === "string"
      ? [{ controller: Number(controller), address }]
      : [];
  });
}
