import { beforeEach, describe, expect, jest, test } from "@jest/globals";

const played: string[] = [];
jest.unstable_mockModule("../state/engine", () => ({
  engine: {
    noteOn: (key: number) => played.push(`on ${key}`),
    noteOff: (key: number) => played.push(`off ${key}`),
    store: { getState: () => ({ playing: false }) },
  },
}));
jest.unstable_mockModule("../state/notices", () => ({ tell: () => {} }));
jest.unstable_mockModule("../state/played", () => ({ playedBy: () => null }));
jest.unstable_mockModule("../state/session", () => ({ session: { instrument: null, store: { subscribe: () => {} } } }));
const { strike } = await import("./transport");

beforeEach(() => {
  jest.useFakeTimers();
  played.length = 0;
});

describe("striking keys one after the other", () => {
  test("each ends before the next begins, the last as well", () => {
    strike([
      { key: 60, velocity: 100 },
      { key: 62, velocity: 100 },
    ]);
    jest.runAllTimers();
    expect(played).toEqual(["on 60", "off 60", "on 62", "off 62"]);
  });

  test("struck twice in a hurry, no key stays down", () => {
    strike([{ key: 60, velocity: 100 }]);
    strike([{ key: 64, velocity: 100 }]);
    jest.runAllTimers();
    expect(played).toEqual(["on 60", "off 60", "on 64", "off 64"]);
    strike([]);
    expect(played).toHaveLength(4);
  });
});
