import { lineAt } from "../dsp";
import { controllerOf, type Instrument, listSources, type Route } from "../instrument";

/** A stretch of numbers, both ends included. */
export interface Range {
  readonly low: number;
  readonly high: number;
}

/** Points of a curve that are looked at between −1 and 1. */
const POINTS = 64;

const rangeOfSource = (instrument: Instrument, source: string): Range => {
  const bipolar = controllerOf(source) === null && listSources(instrument).find((s) => s.id === source)?.bipolar;
  return { low: bipolar ? -1 : 0, high: 1 };
};

function shaped({ low, high }: Range, route: Route): Range {
  const { curve } = route;
  if (!curve || curve.length === 0) return { low, high };
  const line = { x: curve.map((p) => p.x), y: curve.map((p) => p.y), bend: curve.map((p) => p.bend) };
  const values = Array.from({ length: POINTS + 1 }, (_, i) => {
    const x = low + ((high - low) * i) / POINTS;
    return x < 0 ? -lineAt(line, -x) : lineAt(line, x);
  });
  return { low: Math.min(...values), high: Math.max(...values) };
}

const times = (a: Range, b: Range): Range => {
  const products = [a.low * b.low, a.low * b.high, a.high * b.low, a.high * b.high];
  return { low: Math.min(...products), high: Math.max(...products) };
};

/** How far the routes of a parameter can move it either way, in the unit in which it is modulated: their sources' ranges, curves and scales considered. Null where there is none. */
export function reachOfRoutes(instrument: Instrument, address: string): Range | null {
  const routes = instrument.routes.filter((r) => r.target === address && r.on);
  if (routes.length === 0) return null;
  let low = 0;
  let high = 0;
  for (const route of routes) {
    let range = shaped(rangeOfSource(instrument, route.source), route);
    if (route.scale !== null) range = times(range, rangeOfSource(instrument, route.scale));
    range = times(range, { low: route.amount, high: route.amount });
    low += range.low;
    high += range.high;
  }
  return { low, high };
}
