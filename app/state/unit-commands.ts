import { addUnit, removeUnit, together, type Unit, type UnitList, unitsOf } from "../../core/instrument";
import { copied, copy, type UnitShelf } from "./clipboard";
import type { Command } from "./commands";
import { copyName } from "./copy-name";
import { freshId } from "./ids";
import { session } from "./session";

const listOf = (list: UnitList): readonly Unit[] => (session.instrument && unitsOf(session.instrument, list)) ?? [];

/** Inserts, what is in a send and the whole's chain take the same units. */
const shelfOf = (list: UnitList): UnitShelf => {
  if (list.endsWith("/stages")) return "stages";
  return list.includes("/") ? "effects" : (list as UnitShelf);
};

/** Adds copies of units, as one step, under ids and names that nothing else has; returns the last id. */
function add(list: UnitList, what: string, units: readonly Unit[]): string | null {
  const ids = new Set(listOf(list).map((u) => u.id));
  const names = new Set(listOf(list).map((u) => u.name));
  const fresh = units.map((unit) => {
    const name = names.has(unit.name) ? copyName(unit.name, names) : unit.name;
    const id = freshId(ids);
    names.add(name);
    ids.add(id);
    return { ...unit, id, name };
  });
  session.commit(
    together(
      `${what} ${units[0]?.name ?? ""}`,
      fresh.map((unit) => addUnit(list, unit)),
    ),
  );
  return fresh.at(-1)?.id ?? null;
}

/**
 * What can be done with a unit of one of the instrument's lists; `choose` is told which one is to be looked at afterwards (null: the one that was is
 * gone), `more` are the ids of others that are chosen with it. Copies can be pasted wherever units of that kind may stand, in another instrument or tab too.
 */
export function unitCommands(
  list: UnitList,
  id: string | null,
  choose: (id: string | null) => void = () => {},
  more: () => readonly string[] = () => [],
): readonly Command[] {
  const unit = () => listOf(list).find((u) => u.id === id) ?? null;
  /** The unit and those that are chosen beside it in its list, in their order. */
  const chosen = () => {
    const ids = new Set([id, ...more()]);
    return listOf(list).filter((u) => ids.has(u.id));
  };
  const why = () => (unit() ? null : "select one first");
  return [
    {
      id: "copy",
      label: "Copy",
      why,
      run: () => {
        const units = chosen();
        if (units.length > 0) copy({ kind: shelfOf(list), units });
      },
    },
    {
      id: "paste",
      label: "Paste",
      why: () => (copied(shelfOf(list)) ? null : "nothing of this kind was copied"),
      run: () => choose(add(list, "Paste", copied(shelfOf(list))?.units ?? [])),
    },
    {
      id: "duplicate",
      label: "Duplicate",
      why,
      run: () => {
        const units = chosen();
        if (units.length > 0) choose(add(list, "Duplicate", units));
      },
    },
    {
      id: "remove",
      label: "Remove",
      why,
      run: () => {
        const units = chosen();
        if (units.length === 0) return;
        const edits = units.map((u) => removeUnit(list, u.id));
        session.commit(edits.length === 1 && edits[0] ? edits[0] : together(`Remove ${edits.length} units`, edits));
        choose(null);
      },
    },
  ];
}
