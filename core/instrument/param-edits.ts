import { clampValue, formatValue, type ParamValue } from "../params";
import { type Preset, type TableRow, type UnitKind, unitSpec } from "../units";
import { changeUnit, findParam, findUnit } from "./address";
import { type UnitList, unitsOf, withUnits } from "./chains";
import { withoutDead } from "./dead-references";
import { newRoute, newUnit } from "./defaults";
import type { Edit } from "./edit";
import { faceRenamed } from "./face-items";
import type { Curve, Instrument, Route, Sample, Tuning, Unit } from "./instrument";
import { placeInTable, renumbered, rowsOf } from "./row-params";
import { settingOf } from "./setting-of";

/** Sets one parameter; numbers are kept in range. Misuse (no such address, no such choice) throws RangeError. */
export function setParam(instrument: Instrument, address: string, value: ParamValue): Edit {
  const found = findParam(instrument, address);
  if (!found) throw new RangeError(`there is no parameter at ${address}`);
  const { spec } = found;
  if (spec.type === "choice" && !spec.choices.some((c) => c.id === value)) {
    throw new RangeError(`${address} can't be ${value}`);
  }
  const next = spec.type === "number" ? clampValue(spec, Number(value)) : value;
  const unitAddress = address.slice(0, address.lastIndexOf("/"));
  const place = placeInTable(address);
  if (place && found.unit) {
    return {
      name: `Set ${found.label} to ${formatValue(spec, next)}`,
      merge: address,
      apply: (doc) =>
        changeUnit(doc, place.unit, (unit) => ({
          ...unit,
          table: wholeRows(
            unit.kind,
            rowsOf(unit).map((row, r) => (r === place.row ? { ...row, [place.column]: Number(next) } : row)),
          ),
        })),
    };
  }
  if (!found.unit) return changeRoute(unitAddress.slice("routes/".length), { amount: Number(next) });
  return {
    name: `Set ${found.label} to ${formatValue(spec, next)}`,
    merge: address,
    apply: (doc) => changeUnit(doc, unitAddress, (unit) => ({ ...unit, params: { ...unit.params, [spec.id]: next } })),
  };
}

/** Sets several parameters in one step; those of one gesture with the same `what` are one, too. Throws RangeError where one isn't there, or can't be so. */
export function setParams(
  instrument: Instrument,
  changes: readonly (readonly [address: string, value: ParamValue])[],
  what: string,
): Edit {
  const edits = changes.map(([address, value]) => setParam(instrument, address, value));
  const [first] = edits;
  if (edits.length === 1 && first && first.merge === what) return first;
  return {
    name: edits.length === 1 && first ? first.name : `Set ${edits.length} values`,
    merge: what,
    apply: (doc) => edits.reduce((now, edit) => edit.apply(now), doc),
  };
}

/** Gives the unit at an address another name. */
export const renameUnit = (address: string, name: string): Edit => ({
  name: `Rename to ${name}`,
  merge: `name:${address}`,
  apply: (doc) => changeUnit(doc, address, (unit) => ({ ...unit, name })),
});

/** Adds a route; what isn't given is as newRoute has it. */
export const addRoute = (route: Parameters<typeof newRoute>[0]): Edit => ({
  name: "Add route",
  apply: (doc) => ({ ...doc, routes: [...doc.routes, newRoute(route)] }),
});

export const changeRoute = (id: string, change: Partial<Omit<Route, "id">>): Edit => ({
  name: "amount" in change ? "Set route amount" : "Change route",
  merge: `route:${id}:${Object.keys(change).join()}`,
  apply: (doc) => ({ ...doc, routes: doc.routes.map((r) => (r.id === id ? { ...r, ...change } : r)) }),
});

/** Removes a route, and those that moved its amount. */
export const removeRoute = (id: string): Edit => ({
  name: "Remove route",
  apply: (doc) => withoutDead({ ...doc, routes: doc.routes.filter((r) => r.id !== id) }),
});

const CALLED: Readonly<Record<string, string>> = {
  envelopes: "envelope",
  lfos: "LFO",
  macros: "macro",
  mics: "microphone",
  sets: "set",
  effects: "effect",
  stages: "stage",
  inserts: "insert",
};

/** What a unit of a list is called. */
const called = (list: UnitList): string => CALLED[list.slice(list.lastIndexOf("/") + 1)] ?? "effect";

/** Adds a unit to a list: before the unit that stands at place `at`, or at its end. */
export const addUnit = (list: UnitList, unit: Unit, at?: number): Edit => ({
  name: `Add ${unit.name}`,
  apply: (doc) => withUnits(doc, list, (units) => units.toSpliced(at ?? units.length, 0, unit)),
});

/** Puts a unit of a list at another place among the others. */
export const moveUnit = (list: UnitList, id: string, to: number): Edit => ({
  name: `Move ${called(list)}`,
  apply: (doc) => {
    const unit = unitsOf(doc, list)?.find((u) => u.id === id);
    return unit ? withUnits(doc, list, (units) => units.filter((u) => u !== unit).toSpliced(to, 0, unit)) : doc;
  },
});

/** Moves a unit to a place in another list; routes and dials that name it go along. */
export const moveUnitTo = (from: UnitList, id: string, to: UnitList, at: number): Edit => ({
  name: `Move ${called(from)}`,
  apply: (doc) => {
    const unit = unitsOf(doc, from)?.find((u) => u.id === id);
    const there = unitsOf(doc, to);
    if (!unit || !there || from === to) return doc;
    const taken = new Set(there.map((u) => u.id));
    let own = id;
    for (let n = 2; taken.has(own); n++) own = `${id}-${n}`;
    const without = withUnits(doc, from, (units) => units.filter((u) => u !== unit));
    const moved = withUnits(without, to, (units) => units.toSpliced(at, 0, { ...unit, id: own }));
    const before = `${from}/${id}/`;
    const named = (address: string) =>
      address.startsWith(before) ? `${to}/${own}/${address.slice(before.length)}` : address;
    return {
      ...moved,
      routes: moved.routes.map((r) => (named(r.target) === r.target ? r : { ...r, target: named(r.target) })),
      face: faceRenamed(moved, named),
    };
  },
});

/** Removes a unit of a list, and whatever names it. */
export const removeUnit = (list: UnitList, id: string): Edit => ({
  name: `Remove ${called(list)}`,
  apply: (doc) => withoutDead(withUnits(doc, list, (units) => units.filter((u) => u.id !== id))),
});

/** Rows with all columns of their table, those that aren't given as they are at first. */
function wholeRows(kind: UnitKind, rows: readonly TableRow[]): readonly TableRow[] {
  const columns = unitSpec(kind).table?.columns ?? [];
  return rows.map((row) =>
    columns.every((c) => row[c.id] !== undefined)
      ? row
      : { ...Object.fromEntries(columns.map((c) => [c.id, c.default])), ...row },
  );
}

/** Gives a unit's table other rows; drags merge into one step. */
export const setTable = (address: string, rows: readonly TableRow[], what: string): Edit => ({
  name: what,
  merge: `${address}/table:${what}`,
  apply: (doc) => {
    const next = changeUnit(doc, address, (unit) => ({ ...unit, table: wholeRows(unit.kind, rows) }));
    const before = findUnit(doc, address);
    return before && rows.length < rowsOf(before).length ? withoutDead(next) : next;
  },
});

/** What of a unit belongs to where it stands, and stays when it is set up otherwise: whether it is on, how it stands to the key, how loud it is beside others, how much of it is heard. */
const STAYS: ReadonlySet<string> = new Set(["on", "transpose", "fine", "root", "level", "mix"]);

const stays = (kind: UnitKind, id: string): boolean =>
  STAYS.has(id) || (id === "keyTracking" && unitSpec(kind).role === "source");

/** Sets a unit up: all parameters as given or as they are at first, and its table; what it is connected with stays. */
export const setUp = (address: string, { name, params, table }: Preset): Edit => ({
  name: `Set up as ${name}`,
  apply: (doc) => {
    const next = changeUnit(doc, address, (unit) => {
      const values: Record<string, ParamValue> = { ...unit.params };
      for (const spec of unitSpec(unit.kind).params) {
        const given = settingOf({ params }, spec.id);
        if (given === undefined && stays(unit.kind, spec.id)) continue;
        values[spec.id] = given ?? spec.default;
      }
      return table ? { ...unit, params: values, table: wholeRows(unit.kind, table) } : { ...unit, params: values };
    });
    return withoutDead(next);
  },
});

/** Takes rows out of a unit's table; what moves or shows the others goes along with them. */
export const removeRows = (address: string, gone: readonly number[], what: string): Edit => ({
  name: what,
  apply: (doc) => {
    const unit = findUnit(doc, address);
    if (!unit) return doc;
    const kept = rowsOf(unit).flatMap((_, r) => (gone.includes(r) ? [] : [r]));
    const named = (name: string) =>
      renumbered(name, address, (row) => {
        const at = kept.indexOf(row);
        return at < 0 ? null : at;
      });
    const next = changeUnit(doc, address, (u) => ({
      ...u,
      table: wholeRows(
        u.kind,
        rowsOf(u).filter((_, r) => !gone.includes(r)),
      ),
    }));
    return withoutDead({
      ...next,
      routes: next.routes.flatMap((route) => {
        const target = named(route.target);
        return target === null ? [] : target === route.target ? route : { ...route, target };
      }),
      face: faceRenamed(next, named),
    });
  },
});

/** Lets a unit use a sound, such as a convolution its impulse; one that isn't in the instrument yet comes in. */
export const setUnitSample = (address: string, sample: Sample): Edit => ({
  name: `Use ${sample.name}`,
  apply: (doc) => {
    const samples = doc.samples.some((s) => s.sha === sample.sha) ? doc.samples : [...doc.samples, sample];
    return changeUnit({ ...doc, samples }, address, (unit) => ({ ...unit, sample: sample.sha }));
  },
});

/** Gives a send another name. */
export const renameSend = (id: string, name: string): Edit => ({
  name: `Rename to ${name}`,
  merge: `send:${id}`,
  apply: (doc) => ({ ...doc, sends: doc.sends.map((s) => (s.id === id ? { ...s, name } : s)) }),
});

/** Puts an impulse into the recorded room, which is added where there is none yet. */
export const setRoom = (sample: Sample): Edit => ({
  name: `Use ${sample.name} as the room`,
  apply: (doc) => {
    const samples = doc.samples.some((s) => s.sha === sample.sha) ? doc.samples : [...doc.samples, sample];
    const there = doc.effects.some((u) => u.kind === "convolution");
    const effects = there ? doc.effects : [...doc.effects, newUnit("convolution", "room")];
    return {
      ...doc,
      samples,
      effects: effects.map((u) => (u.kind === "convolution" ? { ...u, sample: sample.sha } : u)),
    };
  },
});

/** Draws a unit's curve: one cycle of an LFO, or the points of an envelope. */
export const setCurve = (address: string, curve: Curve): Edit => ({
  name: "Draw curve",
  merge: `curve:${address}`,
  apply: (doc) => changeUnit(doc, address, (unit) => ({ ...unit, curve })),
});

/** Sets the tuning; null is equal temperament. */
export const setTuning = (tuning: Tuning | null): Edit => ({
  name: tuning ? `Tune to ${tuning.name}` : "Tune to equal temperament",
  apply: (doc) => ({ ...doc, tuning }),
});
