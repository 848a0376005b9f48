import { amountRange, type NumberParam, type ParamSpec, type ParamValue } from "../params";
import { unitSpec } from "../units";
import { byIdentity } from "./by-identity";
import { unitsOf, withUnits } from "./chains";
import { namesOf } from "./face-items";
import type { Instrument, Route, Unit } from "./instrument";
import { cellOfTable, type PlaceInTable, placeInTable } from "./row-params";
import { settingOf } from "./setting-of";
import { listSources } from "./sources";

/** A parameter found in a document. */
export interface FoundParam {
  readonly address: string;
  readonly spec: ParamSpec;
  /** null for the amount of a route. */
  readonly unit: Unit | null;
  /** Whether each note has a value of its own, or all share one. */
  readonly perVoice: boolean;
  /** Id of the layer whose voices it belongs to; null where it is one for the whole instrument. */
  readonly layer: string | null;
  readonly value: ParamValue;
  /** Unit and parameter, for people: `Filter cutoff`. */
  readonly label: string;
}

/** A unit where it stands: its address, and the layer that it belongs to, whose name goes before its own where there are several. */
interface PlacedUnit {
  readonly address: string;
  readonly unit: Unit;
  readonly layer: string | null;
  readonly prefix: string;
  /** Whether it belongs to a layer without being in each of its voices. */
  readonly shared: boolean;
}

/** Every unit of a document with its address. */
export function listUnits({ layers, ...instrument }: Instrument): PlacedUnit[] {
  const units: PlacedUnit[] = [];
  for (const { id: layer, name, source, groups, stages, amp, strip, inserts, sends } of layers) {
    const prefix = layers.length > 1 ? `${name}: ` : "";
    const put = (place: string, unit: Unit, shared = false) =>
      units.push({ address: `layers/${layer}/${place}`, unit, layer, prefix, shared });
    put("source", source);
    for (const group of groups) put(`groups/${group.id}`, group.settings);
    for (const stage of stages) put(`stages/${stage.id}`, stage);
    put("amp", amp);
    put("strip", strip);
    for (const insert of inserts) put(`inserts/${insert.id}`, insert, true);
    put("sends", sends, true);
  }
  const whole = (address: string, unit: Unit) => units.push({ address, unit, layer: null, prefix: "", shared: true });
  for (const send of instrument.sends) for (const unit of send.units) whole(`sends/${send.id}/${unit.id}`, unit);
  for (const list of ["envelopes", "lfos", "macros", "mics", "sets", "effects"] as const) {
    for (const unit of instrument[list]) whole(`${list}/${unit.id}`, unit);
  }
  whole("play", instrument.play);
  return units;
}

const hasOwnInEachNote = (unit: Unit): boolean =>
  unit.kind === "envelope" || unit.kind === "path" || (unit.kind === "lfo" && unit.params.retrigger === "note");

const isShared = (spec: ParamSpec): boolean => spec.type === "number" && spec.shared === true;

const makeParams = ({ address, unit, layer, prefix, shared }: PlacedUnit): readonly FoundParam[] =>
  unitSpec(unit.kind).params.map((spec) => ({
    address: `${address}/${spec.id}`,
    spec,
    unit,
    layer,
    perVoice: (layer !== null && !shared && !isShared(spec)) || hasOwnInEachNote(unit),
    value: settingOf(unit, spec.id) ?? spec.default,
    label: unit.kind === "macro" ? unit.name : `${prefix}${unit.name} ${spec.label.toLowerCase()}`,
  }));

/** The parameters of each unit, and where it stood when they were listed. */
const listed = new WeakMap<Unit, { readonly at: PlacedUnit; readonly params: readonly FoundParam[] }>();

function paramsOf(at: PlacedUnit): readonly FoundParam[] {
  const known = listed.get(at.unit);
  if (known?.at.address === at.address && known.at.prefix === at.prefix) return known.params;
  const params = makeParams(at);
  listed.set(at.unit, { at, params });
  return params;
}

/** A route's amount as a parameter: in the unit in which its target is modulated, so that routes can move it too. */
function amountParam(route: Route, target: FoundParam, source: string): FoundParam | null {
  if (target.spec.type !== "number" || target.spec.mod === "none") return null;
  const known = amounts.get(route);
  if (known?.target === target && known.source === source) return known.param;
  const param = makeAmount(route, target, target.spec, source);
  amounts.set(route, { target, source, param });
  return param;
}

const amounts = new WeakMap<
  Route,
  { readonly target: FoundParam; readonly source: string; readonly param: FoundParam }
>();

function makeAmount(route: Route, target: FoundParam, moved: NumberParam, source: string): FoundParam {
  const most = amountRange(moved);
  const spec: NumberParam = {
    type: "number",
    id: "amount",
    label: "Depth",
    unit: moved.mod === "octaves" ? "octaves" : moved.unit,
    min: -most,
    max: most,
    default: 0,
    taper: "linear",
    mod: "linear",
    help: "Depth of the route.",
  };
  return {
    address: `routes/${route.id}/amount`,
    spec,
    unit: null,
    layer: target.layer,
    perVoice: target.perVoice,
    value: route.amount,
    label: `Depth of ${source} to ${target.label}`,
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

interface Params {
  readonly list: readonly FoundParam[];
  readonly byAddress: ReadonlyMap<string, FoundParam>;
}

const paramsOfInstrument = byIdentity((instrument: Instrument): Params => {
  const units = [...listUnits(instrument).flatMap(paramsOf), ...movedRows(instrument)];
  const byAddress = new Map(units.map((p) => [p.address, p]));
  const names = namesOfSources(instrument);
  const byAmount = new Map(instrument.routes.map((r) => [`routes/${r.id}/amount`, r]));
  /** The parameter that a route moves: of a unit, or another route's amount. */
  const targetOf = (route: Route, depth = 0): FoundParam | null => {
    const other = byAmount.get(route.target);
    if (!other) return byAddress.get(route.target) ?? null;
    const target = depth < MOST_IN_A_ROW ? targetOf(other, depth + 1) : null;
    return target && amountParam(other, target, names.get(other.id) ?? "");
  };
  const found = instrument.routes.flatMap((route) => {
    const target = targetOf(route);
    return (target && amountParam(route, target, names.get(route.id) ?? "")) ?? [];
  });
  const list = [...units, ...found];
  return { list, byAddress: new Map(list.map((p) => [p.address, p])) };
});

/** The cells of tables that routes move or a face shows: of thousands they alone count as parameters. */
function movedRows(instrument: Instrument): FoundParam[] {
  const { items, pages } = instrument.face;
  const shown = pages.flatMap((page) => page.when?.address ?? []);
  const named = [...instrument.routes.map((r) => r.target), ...items.flatMap(namesOf), ...shown];
  const addresses = new Set(named.filter((a) => a.includes("/rows/")));
  return [...addresses].flatMap((address) => rowParam(instrument, address) ?? []);
}

/** A cell of a unit's table as a parameter; null where the address means none. */
function rowParam(instrument: Instrument, address: string): FoundParam | null {
  const place = placeInTable(address);
  const at = place && placedUnits(instrument).get(place.unit);
  if (!at) return null;
  const known = cells.get(at.unit) ?? new Map<string, { readonly prefix: string; readonly param: FoundParam | null }>();
  cells.set(at.unit, known);
  const before = known.get(address);
  if (before?.prefix === at.prefix) return before.param;
  const param = makeCell(address, place, at);
  known.set(address, { prefix: at.prefix, param });
  return param;
}

/** The cells of each unit's table that were asked for: as long as the unit is the same one, so are they. */
const cells = new WeakMap<Unit, Map<string, { readonly prefix: string; readonly param: FoundParam | null }>>();

function makeCell(address: string, place: PlaceInTable, at: PlacedUnit): FoundParam | null {
  const cell = cellOfTable(at.unit, place);
  if (!cell) return null;
  const row = `${unitSpec(at.unit.kind).table?.row} ${place.row + 1}`;
  return {
    address,
    spec: cell.spec,
    unit: at.unit,
    layer: at.layer,
    perVoice: at.layer !== null && !at.shared,
    value: cell.value,
    label: `${at.prefix}${at.unit.name} ${row} ${cell.spec.label.toLowerCase()}`,
  };
}

/** Every parameter of a document, those of tables that something names and the routes' amounts included; those of units that are as before are the very same objects. */
export const listParams = (instrument: Instrument): readonly FoundParam[] => paramsOfInstrument(instrument).list;

/** The parameter at an address; null where there is none. */
export const findParam = (instrument: Instrument, address: string): FoundParam | null =>
  paramsOfInstrument(instrument).byAddress.get(address) ??
  (address.includes("/rows/") ? rowParam(instrument, address) : null);

const placedUnits = byIdentity(
  (instrument: Instrument) => new Map(listUnits(instrument).map((placed) => [placed.address, placed])),
);

/** The unit at an address; null where there is none. */
export const findUnit = (instrument: Instrument, address: string): Unit | null =>
  placedUnits(instrument).get(address)?.unit ?? null;

/** The document with the unit at an address changed; misuse (no such unit) throws RangeError. */
export function changeUnit(instrument: Instrument, address: string, change: (unit: Unit) => Unit): Instrument {
  const missing = (): never => {
    throw new RangeError(`there is no unit at ${address}`);
  };
  const cut = address.lastIndexOf("/");
  const [list, own] = [address.slice(0, cut), address.slice(cut + 1)];
  if (unitsOf(instrument, list)) {
    return withUnits(instrument, list, (units) => {
      if (!units.some((u) => u.id === own)) missing();
      return units.map((u) => (u.id === own ? change(u) : u));
    });
  }
  const [head, id, part, group] = address.split("/");
  if (head === "play") return { ...instrument, play: change(instrument.play) };
  if (head !== "layers" || !instrument.layers.some((l) => l.id === id)) return missing();
  return {
    ...instrument,
    layers: instrument.layers.map((layer) => {
      if (layer.id !== id) return layer;
      if (part === "groups") {
        if (!layer.groups.some((g) => g.id === group)) missing();
        return {
          ...layer,
          groups: layer.groups.map((g) => (g.id === group ? { ...g, settings: change(g.settings) } : g)),
        };
      }
      if (part === "source" || part === "amp" || part === "strip" || part === "sends")
        return { ...layer, [part]: change(layer[part]) };
      return missing();
    }),
  };
}
