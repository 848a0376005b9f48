import { expect, test } from "@jest/globals";
import { doubtsOf, type MeasuredSlice } from "./measure";

const slice = (change: Partial<MeasuredSlice>): MeasuredSlice => ({
  start: 0,
  end: 40000,
  onset: 0,
  pitch: 60,
  confidence: 0.9,
  peak: -6,
  loudness: -20,
  tone: 80,
  low: 0,
  body: 0.4,
  clarity: 0.9,
  wander: 0.02,
  ...change,
});
const many = (n: number, change: Partial<MeasuredSlice>) => Array.from({ length: n }, () => slice(change));

test("bumps, clicks, speech and false starts are doubted with a reason; a kit is kept whole", () => {
  const good = [slice({}), slice({}), slice({}), slice({}), slice({})];
  const doubts = doubtsOf([
    ...good,
    slice({ confidence: 0.2, tone: 100 }),
    slice({ end: 3000 }),
    slice({ low: 0.95, confidence: 0.3 }),
    slice({ body: 0.004, confidence: 0.1 }),
    slice({ pitch: 48, wander: 2.5, clarity: 0.7, tone: 75 }),
    slice({ loudness: -70, tone: 110, body: 0.05 }),
  ]);
  expect(doubts.slice(0, 5)).toEqual(["", "", "", "", ""]);
  expect(doubts.slice(5).map((d) => d.split(":")[0])).toEqual([
    "no clear pitch",
    "far shorter than the others",
    "a bump",
    "a click",
    "speech",
    "far softer than the others",
  ]);
  const kit = [slice({ confidence: 0.1, end: 4000 }), slice({ confidence: 0.2, end: 3000 }), slice({ end: 9000 })];
  expect(doubtsOf(kit)).toEqual(["", "", ""]);
});

test("what occurs often, or resembles what is kept, is no accident", () => {
  // Thuds of a kit, dry knocks, the softest of a string, a low string.
  const drums = [
    ...many(20, { confidence: 0.1 }),
    ...many(6, { low: 0.98, confidence: 0.1, tone: 35, body: 0.2, end: 9000 }),
  ];
  expect(doubtsOf(drums)).toEqual(drums.map(() => ""));
  const knocks = [...many(20, { confidence: 0.1 }), ...many(6, { body: 0.01, confidence: 0.1, end: 1500 })];
  expect(doubtsOf(knocks)).toEqual(knocks.map(() => ""));
  const strings = [
    ...many(20, {}),
    slice({ confidence: 0.4, loudness: -60, tone: 84 }),
    slice({ low: 0.8, pitch: 40 }),
  ];
  expect(doubtsOf(strings)).toEqual(strings.map(() => ""));
  // The lowest strings ring on, which no bump does; a few drums of a kind lie one after another, softer and softer; knocks recur.
  const lowest = [
    ...many(20, {}),
    slice({ low: 0.95, pitch: 28, body: 0.8 }),
    slice({ low: 0.95, pitch: 30, body: 0.7 }),
  ];
  expect(doubtsOf(lowest)).toEqual(lowest.map(() => ""));
  const thuds = [0, 7, 14].map((softer) =>
    slice({ low: 0.95, pitch: 33, body: 0.25, end: 16000, tone: 43 + softer, loudness: -20 - softer }),
  );
  const kitOfFew = [...thuds, ...many(30, {})];
  expect(doubtsOf(kitOfFew)).toEqual(kitOfFew.map(() => ""));
  const rings = many(8, { end: 130000, body: 1 });
  const among = [0, 1, 2].flatMap(() => [...rings, slice({ end: 1800, confidence: 0.2, body: 0.02, tone: 105 })]);
  expect(doubtsOf(among)).toEqual(among.map(() => ""));
  // One alone, wherever it is, is still doubted.
  const alone = doubtsOf([...rings, slice({ low: 0.95, pitch: 33, body: 0.2, confidence: 0.7, end: 9000 }), ...rings]);
  expect(alone.filter((d) => d !== "")).toEqual(["a bump: hardly anything above 120 Hz"]);
});

test("dry knocks one after another, softer and softer, are meant, whether the softest has a pitch or not", () => {
  const knock = (n: number) =>
    slice({ body: 0.01 + n * 0.003, end: 1700, loudness: -20 - 6 * n, peak: -2 - 7 * n, tone: 112 + 4 * n });
  const pitched = [0, 1, 2].map(knock);
  const take = [...many(20, { end: 20000 }), ...pitched, { ...knock(3), confidence: 0.5 }];
  expect(doubtsOf(take)).toEqual(take.map(() => ""));
  // One of them elsewhere, by itself, is doubted.
  const alone = [...many(10, { end: 20000 }), { ...knock(3), confidence: 0.5 }, ...many(10, { end: 20000 })];
  expect(doubtsOf(alone).filter((d) => d !== "")).toEqual(["no clear pitch"]);
});
