import { findUnit, type Instrument, type Layer, placeInTable, type Unit } from "../instrument";
import { routeProblem } from "./route-problem";

/** Whether two documents differ in nothing but the values of parameters, so that sending `base` is enough. */
export const sameStructure = (a: Instrument, b: Instrument): boolean =>
  sameRoutes(a, b) &&
  a.routes.every((route) => sameEffect(a, b, route)) &&
  a.rules === b.rules &&
  a.samples === b.samples &&
  a.tuning === b.tuning &&
  a.play.params.sampleMemory === b.play.params.sampleMemory &&
  a.layers.length === b.layers.length &&
  a.layers.every((layer, i) => {
    const other = b.layers[i];
    return (
      other !== undefined &&
      layer.id === other.id &&
      layer.set === other.set &&
      layer.groups.length === other.groups.length &&
      layer.groups.every((g, n) => g.id === other.groups[n]?.id && g.zones === other.groups[n]?.zones) &&
      layer.strip.params.mute === other.strip.params.mute &&
      sameUnits([layer.source], [other.source]) &&
      sameUnits(layer.stages, other.stages) &&
      sameUnits(layer.inserts, other.inserts)
    );
  }) &&
  a.sends.every((send, i) => sameUnits(send.units, b.sends[i]?.units ?? [])) &&
  (["envelopes", "lfos", "macros", "mics", "sets", "effects"] as const).every((list) => sameUnits(a[list], b[list])) &&
  a.lfos.every((u, i) => u.params.retrigger === b.lfos[i]?.params.retrigger);

/** Whether a route that had an effect still has one, and one that had none has none: that may depend on how its target's unit is set. */
const sameEffect = (a: Instrument, b: Instrument, route: Instrument["routes"][number]): boolean => {
  const unit = placeInTable(route.target)?.unit ?? route.target.slice(0, route.target.lastIndexOf("/"));
  if (findUnit(a, unit) === findUnit(b, unit)) return true;
  return (routeProblem(a, route) === null) === (routeProblem(b, route) === null);
};

const sameRoutes = (a: Instrument, b: Instrument): boolean =>
  a.routes === b.routes ||
  (a.routes.length === b.routes.length &&
    a.routes.every((r, i) => {
      const other = b.routes[i];
      return (
        other !== undefined &&
        r.id === other.id &&
        r.source === other.source &&
        r.target === other.target &&
        r.on === other.on &&
        r.curve === other.curve &&
        r.scale === other.scale &&
        r.smooth === other.smooth &&
        (r.amount === 0) === (other.amount === 0)
      );
    }));

const sameUnits = (a: readonly Unit[], b: readonly Unit[]): boolean =>
  a === b ||
  (a.length === b.length &&
    a.every((unit, i) => {
      const other = b[i];
      return (
        unit.id === other?.id &&
        unit.kind === other.kind &&
        unit.curve === other.curve &&
        unit.sample === other.sample &&
        unit.table === other.table &&
        unit.from === other.from
      );
    }));

/** Whether two documents differ in nothing but their zones. */
export const sameButZones = (a: Instrument, b: Instrument): boolean =>
  (Object.keys(a) as (keyof Instrument)[]).every((key) => key === "layers" || a[key] === b[key]) &&
  a.layers.length === b.layers.length &&
  a.layers.every((layer, l) => {
    const other = b.layers[l] as Layer;
    return (
      (Object.keys(layer) as (keyof Layer)[]).every((key) => key === "groups" || layer[key] === other[key]) &&
      layer.groups.length === other.groups.length &&
      layer.groups.every((g, i) => g.id === other.groups[i]?.id && g.settings === other.groups[i]?.settings)
    );
  });
