import { addUnit, findUnit, moveUnit, newUnit, setParam, type UnitList, unitsOf } from "../../../core/instrument";
import { type UnitKind, unitSpec } from "../../../core/units";
import type { Command } from "../../state/commands";
import { freeName } from "../../state/copy-name";
import { freshId } from "../../state/ids";
import { session } from "../../state/session";
import { unitCommands } from "../../state/unit-commands";
import { setView } from "../../state/view";
import { listOfAddress } from "./sound-lists";

/** Opens the unit at an address. */
export const openUnit = (soundUnit: string | null): void => setView({ soundUnit });

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

/** Lets the sound go through a unit, or past it. */
export function switchUnit(address: string): void {
  const { instrument } = session;
  const unit = instrument && findUnit(instrument, address);
  if (unit?.params.on === undefined) return;
  session.commit(
    setParam(instrument as NonNullable<typeof instrument>, `${address}/on`, Number(unit.params.on) < 0.5 ? 1 : 0),
  );
}

/** Moves a unit among those of its list. */
function move(address: string, by: number): void {
  const place = listOfAddress(address);
  const units = (session.instrument && place && unitsOf(session.instrument, place.list)) ?? [];
  const at = units.findIndex((u) => u.id === place?.id);
  if (place && at >= 0 && at + by >= 0 && at + by < units.length)
    session.commit(moveUnit(place.list, place.id, at + by));
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
  return [
    {
      id: "switch",
      label: "Switch it off or on",
      chords: ["Alt+B"],
      why: () => (unit()?.params.on === undefined ? "it can't be switched off" : null),
      run: () => address !== null && switchUnit(address),
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
    ...(place ? unitCommands(place.list, place.id, open).map((c) => ({ ...c, chords: KEYS[c.id] ?? [] })) : []),
  ];
}
