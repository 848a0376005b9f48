import {
  addRoute,
  addUnit,
  changeFaceItem,
  type Edit,
  type FaceItem,
  findParam,
  type Instrument,
  newMove,
  newUnit,
  setParam,
  together,
} from "../instrument";
import { type NumberParam, valueAt } from "../params";

/** Most macros that an instrument has. */
const MOST_MACROS = 256;

/** How far a route must move something to bring it from one value to another, in the unit of its modulation; null where no route can. */
function between(spec: NumberParam, from: number, to: number): number | null {
  switch (spec.mod) {
    case "linear":
      return to - from;
    case "octaves":
      return from > 0 && to > 0 ? Math.log2(to / from) : null;
    case "none":
      return null;
  }
}

/**
 * Puts a macro between an item and each parameter that it moves: the item moves the macros then, which rules, routes and other items can move too. Each macro goes
 * over the range that the item had, and stands where the sound doesn't change. Null where a parameter can't be routed to, is a macro already, or where there
 * would be too many; `id` gives new ids.
 */
export function throughMacros(doc: Instrument, item: FaceItem, id: () => string): Edit | null {
  if (item.moves.length === 0 || doc.macros.length + item.moves.length > MOST_MACROS) return null;
  const edits: Edit[] = [];
  const moves = [];
  for (const move of item.moves) {
    const found = findParam(doc, move.address);
    if (found?.spec.type !== "number" || move.address.startsWith("macros/")) return null;
    const { spec } = found;
    const [low, high] = [valueAt(spec, move.from), valueAt(spec, move.to)];
    const amount = between(spec, low, high);
    const now = between(spec, low, Number(found.value));
    if (amount === null || now === null || amount === 0) return null;
    const own = id();
    const value = `macros/${own}/value`;
    edits.push(
      addUnit("macros", newUnit("macro", own, found.label.slice(-60))),
      addRoute({ id: id(), source: `macros/${own}`, target: move.address, amount }),
      setParam(doc, move.address, low),
      // The macro is there once this is applied.
      { name: "", apply: (later) => setParam(later, value, Math.min(1, Math.max(0, now / amount))).apply(later) },
    );
    moves.push({ ...newMove(value), bend: move.bend, fixed: move.fixed });
  }
  edits.push(changeFaceItem(item.id, "", { moves }));
  return together(`Put ${moves.length === 1 ? "a macro" : `${moves.length} macros`} between`, edits);
}
