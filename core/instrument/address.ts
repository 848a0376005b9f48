import { amountRange, type NumberParam, type ParamSpec, type ParamValue, unitSpec } from "../params";
import type { Instrument, Layer, Route, Unit } from "./instrument";
import { listSources } from "./sources";

/** A parameter found in a document. */
export interface FoundParam {
  readonly address: string;
  readonly spec: ParamSpec;
  /** null for the amount of a route. */
  readonly unit: Unit | null;
  /** Whether each note has a value of its own, or all share one. */
  readonly perVoice: boolean;
  /** The layer whose voices it belongs to; null where it is one for the whole instrument. */
  readonly layer: Layer | null;
  readonly value: ParamValue;
  /** Unit and parameter, for people: `Filter cutoff`. */
  readonly label: string;
}

/** Every unit of a document with its address. */
export function listUnits(instrument: Instrument): { address: string; unit: Unit; layer: Layer | null }[] {
  const units: { address: string; unit: Unit; layer: Layer | null }[] = [];
  for (const layer of instrument.layers) {
    const at = `layers/${layer.id}`;
    units.push({ address: `${at}/source`, unit: layer.source, layer });
    for (const group of layer.groups) units.push({ address: `${at}/groups/${group.id}`, unit: group.settings, layer });
    for (const stage of layer.stages) units.push({ address: `${at}/stages/${stage.id}`, unit: stage, layer });
    units.push({ address: `${at}/amp`, unit: layer.amp, layer }, { address: `${at}/strip`, unit: layer.strip, layer });
  }
  for (const list of ["envelopes", "lfos", "macros", "mics", "sets", "effects"] as const) {
    for (const unit of instrument[list]) units.push({ address: `${list}/${unit.id}`, unit, layer: null });
  }
  units.push({ address: "play", unit: instrument.play, layer: null });
  return units;
}

function labelOf(instrument: Instrument, unit: Unit, spec: ParamSpec, layer: Layer | null): string {
  if (unit.kind === "macro") return unit.name;
  const own = `${unit.name} ${spec.label.toLowerCase()}`;
  return layer && instrument.layers.length > 1 ? `${layer.name}: ${own}` : own;
}

const hasOwnInEachNote = (unit: Unit): boolean =>
  unit.kind === "envelope" || unit.kind === "path" || (unit.kind === "lfo" && unit.params.scope === "note");

function unitParam(
  instrument: Instrument,
  { address, unit, layer }: { address: string; unit: Unit; layer: Layer | null },
  spec: ParamSpec,
): FoundParam {
  return {
    address: `${address}/${spec.id}`,
    spec,
    unit,
    layer,
    perVoice: layer !== null || hasOwnInEachNote(unit),
    value: unit.params[spec.id] ?? spec.default,
    label: labelOf(instrument, unit, spec, layer),
  };
}

/** A route's amount as a parameter: in the unit in which its target is modulated, so that routes can move it too. */
function amountParam(route: Route, target: FoundParam, source: string): FoundParam | null {
  if (target.spec.type !== "number" || target.spec.mod === "none") return null;
  const most = amountRange(target.spec);
  const spec: NumberParam = {
    type: "number",
    id: "amount",
    label: "Amount",
    unit: target.spec.mod === "octaves" ? "octaves" : target.spec.unit,
    min: -most,
    max: most,
    default: 0,
    taper: "linear",
    mod: "linear",
    help: "How far the route moves its target.",
  };
  return {
    address: `routes/${route.id}/amount`,
    spec,
    unit: null,
    layer: target.layer,
    perVoice: target.perVoice,
    value: route.amount,
    label: `Amount of ${source} to ${target.label}`,
  };
}

/** What each route comes from, numbered where several of one source lead to one target, so that no two amounts have one name. */
function namesOfSources(instrument: Instrument): Map<string, string> {
  const labels = new Map(listSources(instrument).map((s) => [s.id, s.label]));
  const times = new Map<string, number>();
  return new Map(
    instrument.routes.map((route) => {
      const pair = `${route.source}\n${route.target}`;
      const n = (times.get(pair) ?? 0) + 1;
      times.set(pair, n);
      const label = labels.get(route.source) ?? "a source that is gone";
      return [route.id, n > 1 ? `${label} (${n})` : label];
    }),
  );
}

/** Routes that may lead to one another's amounts in a row; a longer row, or a ring, leads nowhere. */
const MOST_IN_A_ROW = 8;

/** The parameter that a route moves: of a unit, or another route's amount. */
function targetOf(
  instrument: Instrument,
  route: Route,
  names: ReadonlyMap<string, string>,
  depth = 0,
): FoundParam | null {
  if (!route.target.startsWith("routes/")) return findUnitParam(instrument, route.target);
  const other = instrument.routes.find((r) => `routes/${r.id}/amount` === route.target);
  const target = other && depth < MOST_IN_A_ROW ? targetOf(instrument, other, names, depth + 1) : null;
  return other && target ? amountParam(other, target, names.get(other.id) ?? "") : null;
}

/** Every parameter of a document, the routes' amounts included. */
export function listParams(instrument: Instrument): FoundParam[] {
  const params = listUnits(instrument).flatMap((at) =>
    unitSpec(at.unit.kind).params.map((spec) => unitParam(instrument, at, spec)),
  );
  const byAddress = new Map(params.map((p) => [p.address, p]));
  const names = namesOfSources(instrument);
  for (const route of instrument.routes) {
    const target = route.target.startsWith("routes/")
      ? targetOf(instrument, route, names)
      : byAddress.get(route.target);
    const amount = target ? amountParam(route, target, names.get(route.id) ?? "") : null;
    if (amount) params.push(amount);
  }
  return params;
}

function findUnitParam(instrument: Instrument, address: string): FoundParam | null {
  const cut = address.lastIndexOf("/");
  const unitAddress = address.slice(0, cut);
  const id = address.slice(cut + 1);
  for (const at of listUnits(instrument)) {
    if (at.address !== unitAddress) continue;
    const spec = unitSpec(at.unit.kind).params.find((p) => p.id === id);
    return spec ? unitParam(instrument, at, spec) : null;
  }
  return null;
}

/** The parameter at an address; null where there is none. */
export function findParam(instrument: Instrument, address: string): FoundParam | null {
  const route = /^routes\/([^/]+)\/amount$/.exec(address);
  if (!route) return findUnitParam(instrument, address);
  const found = instrument.routes.find((r) => r.id === route[1]);
  const names = namesOfSources(instrument);
  const target = found ? targetOf(instrument, found, names) : null;
  return found && target ? amountParam(found, target, names.get(found.id) ?? "") : null;
}

/** The document with the unit at an address changed; misuse (no such unit) throws RangeError. */
export function changeUnit(instrument: Instrument, address: string, change: (unit: Unit) => Unit): Instrument {
  const [head, id, part, stage] = address.split("/");
  const one = (units: readonly Unit[], wanted: string | undefined): readonly Unit[] => {
    if (!units.some((u) => u.id === wanted)) throw new RangeError(`there is no unit at ${address}`);
    return units.map((u) => (u.id === wanted ? change(u) : u));
  };
  switch (head) {
    case "play":
      return { ...instrument, play: change(instrument.play) };
    case "envelopes":
    case "lfos":
    case "macros":
    case "mics":
    case "sets":
    case "effects":
      return { ...instrument, [head]: one(instrument[head], id) };
    case "layers": {
      if (!instrument.layers.some((l) => l.id === id)) throw new RangeError(`there is no unit at ${address}`);
      return {
        ...instrument,
        layers: instrument.layers.map((layer) => {
          if (layer.id !== id) return layer;
          if (part === "stages") return { ...layer, stages: one(layer.stages, stage) };
          if (part === "groups") {
            if (!layer.groups.some((g) => g.id === stage)) throw new RangeError(`there is no unit at ${address}`);
            return {
              ...layer,
              groups: layer.groups.map((g) => (g.id === stage ? { ...g, settings: change(g.settings) } : g)),
            };
          }
          if (part === "source" || part === "amp" || part === "strip") return { ...layer, [part]: change(layer[part]) };
          throw new RangeError(`there is no unit at ${address}`);
        }),
      };
    }
    default:
      throw new RangeError(`there is no unit at ${address}`);
  }
}
