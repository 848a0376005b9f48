import { expect, test } from "@jest/globals";
import { addRoute, type Instrument, newInstrument, type Route, together } from "../instrument";
import { reachOfRoutes } from "./reach";

const TARGET = "layers/main/strip/level";
const reach = (...routes: Partial<Route>[]) => {
  const doc: Instrument = together(
    "",
    routes.map((r, i) => addRoute({ id: `r${i}`, source: "wheel", target: TARGET, amount: 6, ...r })),
  ).apply(newInstrument("t", "T"));
  return reachOfRoutes(doc, TARGET);
};
const line = (...points: [number, number][]) => points.map(([x, y]) => ({ x, y, bend: 0 }));

test("what a source goes through is what is reached: up alone, or both ways", () => {
  expect(reach()).toBeNull();
  expect(reach({})).toEqual({ low: 0, high: 6 });
  expect(reach({ amount: -6 })).toEqual({ low: -6, high: 0 });
  expect(reach({ source: "lfos/lfo1" })).toEqual({ low: -6, high: 6 });
  expect(reach({ source: "controllers/7" })).toEqual({ low: 0, high: 6 });
  expect(reach({}, { source: "bend", amount: 2 })).toEqual({ low: -2, high: 8 });
});

test("curves and scales count; routes that are off don't", () => {
  expect(reach({ curve: line([0, 0], [1, 0.5]) })).toEqual({ low: 0, high: 3 });
  expect(reach({ curve: line([0, 1], [1, 0.25]) })).toEqual({ low: 1.5, high: 6 });
  expect(reach({ source: "lfos/lfo1", curve: line([0, 0], [1, 0.5]) })).toEqual({ low: -3, high: 3 });
  expect(reach({ scale: "bend" })).toEqual({ low: -6, high: 6 });
  expect(reach({ on: false })).toBeNull();
});
