import { beforeEach, expect, jest, test } from "@jest/globals";

const tapped: (string | null)[] = [];
jest.unstable_mockModule("./engine", () => ({ engine: { tap: (at: string | null) => tapped.push(at) } }));
const { tapping } = await import("./tapping");
const now = () => [tapped.at(-1), tapping.store.getState().at];

beforeEach(() => {
  tapped.length = 0;
});

test("of several who listen the last is heard; once it goes, the one before, and in the end the whole", () => {
  const [first, second] = [tapping.want("layers/a"), tapping.want("layers/b")];
  expect(now()).toEqual(["layers/b", "layers/b"]);
  second();
  expect(now()).toEqual(["layers/a", "layers/a"]);
  first();
  expect(now()).toEqual([null, null]);
});

test("who goes first takes nothing from who came later", () => {
  const [first, second] = [tapping.want("layers/a"), tapping.want("layers/b")];
  first();
  expect(now()).toEqual(["layers/b", "layers/b"]);
  second();
  second();
  expect(now()).toEqual([null, null]);
});

test("who insists is heard before all others, and be it on the whole", () => {
  const plot = tapping.want("layers/a");
  const measures = tapping.want(null, true);
  const later = tapping.want("layers/b");
  expect(now()).toEqual([null, null]);
  measures();
  expect(now()).toEqual(["layers/b", "layers/b"]);
  plot();
  later();
  expect(now()).toEqual([null, null]);
});
