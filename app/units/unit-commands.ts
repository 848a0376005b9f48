import {
  ARRANGEMENTS,
  addArrangement,
  addLayer,
  addUnit,
  duplicateLayer,
  findUnit,
  moveUnit,
  moveUnitTo,
  newLayer,
  newUnit,
  pitchBeginning,
  punch,
  removeLayer,
  setParam,
  setSource,
  together,
  type UnitList,
  unitsOf,
} from "../../core/instrument";
import { kindsAt, type UnitKind, unitSpec } from "../../core/units";
import type { Command } from "../state/commands";
import { comparing } from "../state/comparing";
import { copyName, freeName } from "../state/copy-name";
import { freshId } from "../state/ids";
import { tell } from "../state/notices";
import { session } from "../state/session";
import { unitCommands } from "../state/unit-commands";
import { setView, useView } from "../state/view";
import { listOfAddress, type Place, placeOfList } from "./unit-lists";

/** Opens the unit at an address. */
export const openUnit = (soundUnit: string | null): void => setView({ soundUnit, moreUnits: new Set() });

/** Chooses a unit beside the open one, or no longer. */
export function chooseUnit(address: string): void {
  const { soundUnit, moreUnits } = useView.getState();
  if (address === soundUnit) return;
  const next = new Set(moreUnits);
  if (!next.delete(address)) next.add(address);
  setView({ moreUnits: next });
}

/** The addresses of all units that are chosen with one: itself first. */
const chosenWith = (address: string): readonly string[] => {
  const { soundUnit, moreUnits } = useView.getState();
  return address === soundUnit || moreUnits.has(address)
    ? [address, ...[...moreUnits, soundUnit ?? ""].filter((a) => a !== address && a !== "")]
    : [address];
};

/** Adds a unit of a kind to a list, called after what it is, and opens it. */
export function addKind(list: UnitList, kind: UnitKind): void {
  const { instrument } = session;
  if (!instrument) return;
  const units = unitsOf(instrument, list) ?? [];
  const names = new Set(units.map((u) => u.name));
  const { label } = unitSpec(kind);
  const id = freshId(new Set(units.map((u) => u.id)));
  session.commit(addUnit(list, newUnit(kind, id, names.has(label) ? freeName(label, 2, names) : label)));
  openUnit(`${list}/${id}`);
}

/** Adds a layer whose sound comes from a source of a kind, called after it, and opens that. */
export function addLayerOf(kind: UnitKind): void {
  const { instrument } = session;
  if (!instrument) return;
  const names = new Set(instrument.layers.map((l) => l.name));
  const label = kind === "samples" ? "Layer" : unitSpec(kind).label;
  const layer = newLayer(
    freshId(new Set(instrument.layers.map((l) => l.id))),
    names.has(label) ? freeName(label, 2, names) : label,
  );
  session.commit(together(`Add layer ${layer.name}`, [addLayer(layer), setSource(layer.id, kind)]));
  openUnit(`layers/${layer.id}/source`);
}

/** The arrangements of layers that can be added. */
export const arrangementCommands = (): readonly Command[] =>
  ARRANGEMENTS.map((arrangement) => ({
    id: `arrangement-${arrangement.id}`,
    label: arrangement.label,
    run: () => {
      const { instrument } = session;
      if (!instrument) return;
      const taken = new Set(instrument.layers.map((l) => l.id));
      const names = new Set(instrument.layers.map((l) => l.name));
      const ids: string[] = [];
      const named: string[] = [];
      for (const { name } of arrangement.members) {
        const id = freshId(taken);
        taken.add(id);
        ids.push(id);
        const free = names.has(name) ? freeName(name, 2, names) : name;
        names.add(free);
        named.push(free);
      }
      session.commit(addArrangement(arrangement, ids, named));
      openUnit(`layers/${ids.at(-1)}/source`);
    },
  }));

/** What can be done with a layer. */
export function layerCommands(id: string): readonly Command[] {
  const layers = () => session.instrument?.layers ?? [];
  const layer = () => layers().find((l) => l.id === id);
  const begin = (way: "falls" | "rises") => {
    const { instrument } = session;
    if (!instrument) return;
    const envelope = freshId(new Set(instrument.envelopes.map((u) => u.id)));
    const route = freshId(new Set(instrument.routes.map((r) => r.id)));
    session.commit(pitchBeginning(instrument, id, way, { envelope, route }));
    tell("good", "An envelope moves the pitch: how far and how fast is set at Motion.");
  };
  return [
    {
      id: "duplicate-layer",
      label: "Duplicate the layer",
      run: () => {
        const from = layer();
        if (!from) return;
        const copy = freshId(new Set(layers().map((l) => l.id)));
        session.commit(duplicateLayer(id, copy, copyName(from.name, new Set(layers().map((l) => l.name)))));
        openUnit(`layers/${copy}/source`);
      },
    },
    {
      id: "pitch-falls",
      label: "Let the pitch fall at first",
      why: () => (layer()?.source.params.transpose === undefined ? "its source has no pitch" : null),
      run: () => begin("falls"),
    },
    {
      id: "pitch-rises",
      label: "Let the pitch rise at first",
      why: () => (layer()?.source.params.transpose === undefined ? "its source has no pitch" : null),
      run: () => begin("rises"),
    },
    {
      id: "punch",
      label: "Hold the beginning: a punch",
      run: () => session.instrument && session.commit(punch(session.instrument, id)),
    },
    {
      id: "remove-layer",
      label: "Remove the layer",
      why: () => (layers().length < 2 ? "the last one stays" : null),
      run: () => session.commit(removeLayer(id)),
    },
  ];
}

/** Lets the sound go through a unit, or past it. */
export function switchUnit(address: string): void {
  const { instrument } = session;
  const unit = instrument && findUnit(instrument, address);
  if (!instrument || unit?.params.on === undefined) return;
  const on = Number(unit.params.on) < 0.5 ? 1 : 0;
  // Those that are chosen with it go where it goes.
  const edits = chosenWith(address)
    .filter((a) => findUnit(instrument, a)?.params.on !== undefined)
    .map((a) => setParam(instrument, `${a}/on`, on));
  const [first] = edits;
  if (first) session.commit(edits.length === 1 ? first : together(`Switch ${edits.length} units`, edits));
}

/** Moves a unit among those of its list. */
function move(address: string, by: number): void {
  const place = listOfAddress(address);
  const units = (session.instrument && place && unitsOf(session.instrument, place.list)) ?? [];
  const at = units.findIndex((u) => u.id === place?.id);
  if (place && at >= 0 && at + by >= 0 && at + by < units.length)
    session.commit(moveUnit(place.list, place.id, at + by));
}

/** Stands for the end of a list where a unit's id would be. */
export const END = "+";

/** Moves a unit to where another stands, or to the end of a list: in its own list or in any other that takes its kind. */
export function moveTo(from: Place, to: Place): void {
  const { instrument } = session;
  const units = instrument && unitsOf(instrument, to.list);
  const unit = instrument && unitsOf(instrument, from.list)?.find((u) => u.id === from.id);
  if (!units || !unit) return;
  const place = to.id === END ? units.length : units.findIndex((u) => u.id === to.id);
  if (from.list === to.list) {
    const at = Math.min(place, units.length - 1);
    if (at >= 0 && units[at] !== unit) session.commit(moveUnit(from.list, from.id, at));
    return;
  }
  if (!kindsAt(placeOfList(to.list)).includes(unit.kind)) {
    tell(
      "warning",
      `${unit.name} can't stand there: it works in each voice, not on a sum of them, or the other way round.`,
    );
    return;
  }
  session.commit(moveUnitTo(from.list, from.id, to.list, place));
  const moved = session.instrument && unitsOf(session.instrument, to.list)?.[place];
  if (moved) openUnit(`${to.list}/${moved.id}`);
}

const KEYS: Readonly<Record<string, readonly string[]>> = {
  copy: ["Mod+C"],
  paste: ["Mod+V"],
  duplicate: ["Mod+D"],
  remove: ["Delete", "Backspace"],
};

/** What can be done with the unit at an address. */
export function chainCommands(address: string | null): readonly Command[] {
  const place = address === null ? null : listOfAddress(address);
  const movable = () => (place ? null : "it always stands here");
  const unit = () => (session.instrument && address !== null ? findUnit(session.instrument, address) : null);
  const open = (id: string | null) => openUnit(place && id !== null ? `${place.list}/${id}` : null);
  const more = () =>
    (address === null ? [] : chosenWith(address)).flatMap((a) => {
      const other = listOfAddress(a);
      return other && other.list === place?.list ? [other.id] : [];
    });
  return [
    {
      id: "switch",
      label: "Switch it off or on",
      chords: ["Alt+B"],
      why: () => (unit()?.params.on === undefined ? "it can't be switched off" : null),
      run: () => address !== null && switchUnit(address),
    },
    {
      id: "compare-unit",
      label: "Hear it without the unit, as loud, and back",
      chords: ["Alt+C"],
      why: () => (unit()?.params.on === undefined ? "it can't be switched off" : null),
      run: () => address !== null && comparing.toggle(address),
    },
    {
      id: "earlier",
      label: "Move it back in the row",
      chords: ["Alt+ArrowLeft"],
      why: movable,
      run: () => address !== null && move(address, -1),
    },
    {
      id: "later",
      label: "Move it on in the row",
      chords: ["Alt+ArrowRight"],
      why: movable,
      run: () => address !== null && move(address, 1),
    },
    ...(place ? unitCommands(place.list, place.id, open, more).map((c) => ({ ...c, chords: KEYS[c.id] ?? [] })) : []),
  ];
}
