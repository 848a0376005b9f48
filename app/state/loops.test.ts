import { expect, jest, test } from "@jest/globals";
import { newLoop, newZone, type SampledZone } from "../../core/instrument";
import type { LoopCandidate } from "../../core/looping";

const tell: (state: unknown, before: unknown) => void = (state, before) => {
  for (const listener of listeners) listener(state, before);
};
const listeners: ((state: unknown, before: unknown) => void)[] = [];
jest.unstable_mockModule("../workers/audio-worker", () => ({
  Cancelled: class extends Error {},
  furtherAudioCalls: () => ({ of: () => ({}) }),
}));
jest.unstable_mockModule("./with-workers", () => ({ withWorkers: async () => ({ results: [], cancelled: false }) }));
jest.unstable_mockModule("./notices", () => ({ tell: () => {} }));
jest.unstable_mockModule("./open-instrument", () => ({ openStored: async () => true }));
jest.unstable_mockModule("./session", () => ({
  session: {
    store: { subscribe: (listener: (state: unknown, before: unknown) => void) => listeners.push(listener) },
  },
}));
const { foundLoops, scoreOf, worstFirst } = await import("./loops");

const zone = (id: string, start: number | null): SampledZone => ({
  ...newZone({ id, sample: "s", end: 1000 }),
  sample: "s",
  loop: start === null ? null : newLoop({ start, end: 500 }),
});
const candidate = (score: number, start: number) =>
  ({ score, start, end: 500, mode: "forward", crossfade: 0, flat: null }) as LoopCandidate;
const found = new Map([
  ["a", candidate(90, 100)],
  ["b", candidate(60, 200)],
  ["c", null],
  ["d", candidate(70, 300)],
]);

test("a loop has the score with which it was found as long as it is that loop", () => {
  expect(scoreOf(zone("a", 100), found)).toBe(90);
  expect(scoreOf(zone("a", 101), found)).toBeNull();
  expect(scoreOf(zone("a", null), found)).toBeNull();
  expect(scoreOf(zone("c", null), found)).toBe(-1);
  expect(scoreOf(zone("c", 100), found)).toBeNull();
  expect(scoreOf(zone("unknown", 100), found)).toBeNull();
});

test("those with none come first, then the worst; what nobody has judged comes last, as it stood", () => {
  const zones = [zone("x", 100), zone("a", 100), zone("b", 200), zone("c", null), zone("d", 301)];
  expect(worstFirst(zones, found).map((z) => z.id)).toEqual(["c", "b", "a", "x", "d"]);
  expect(worstFirst(zones, new Map())).toEqual(zones);
});

test("another instrument begins without them, though its zones have the same ids; an edit doesn't end them", () => {
  const of = (id: string) => ({ history: { present: { id } } });
  foundLoops.setState({ of: found });
  tell(of("one"), of("one"));
  expect(foundLoops.getState().of).toBe(found);
  tell(of("two"), of("one"));
  expect(foundLoops.getState().of.size).toBe(0);
});
