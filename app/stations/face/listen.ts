import { create } from "zustand";
import { faceKind, itemName, movesRow } from "../../../core/face";
import {
  addressInTable,
  bindsOf,
  boundTo,
  changeFaceItem,
  findParam,
  type Instrument,
  listParams,
  rowsOf,
} from "../../../core/instrument";
import { unitSpec } from "../../../core/units";
import { commitFace } from "../../state/face-selection";
import { tell } from "../../state/notices";
import { session } from "../../state/session";

/** The item that waits for something to be moved, anywhere, which it is to move from then on; null: none waits. */
export const useListening = create<{ readonly item: string | null }>(() => ({ item: null }));

/** The first parameter whose value differs between two states of an instrument, cells of tables too; null where none does. */
export function movedBetween(before: Instrument, after: Instrument): string | null {
  const moved = listParams(after).find(({ address, value }) => {
    const was = findParam(before, address);
    return was !== null && was.value !== value;
  });
  return moved?.address ?? cellBetween(before, after);
}

/** The first cell of a table whose value differs: of thousands only those that something names are listed as parameters. */
function cellBetween(before: Instrument, after: Instrument): string | null {
  for (const layer of after.layers) {
    const was = before.layers.find((l) => l.id === layer.id);
    if (!was || was === layer) continue;
    const units = [
      [`layers/${layer.id}/source`, layer.source, was.source] as const,
      ...layer.stages.map(
        (unit) => [`layers/${layer.id}/stages/${unit.id}`, unit, was.stages.find((s) => s.id === unit.id)] as const,
      ),
    ];
    for (const [address, unit, old] of units) {
      if (!old || unit.table === old.table || unit.kind !== old.kind) continue;
      const [rows, were] = [rowsOf(unit), rowsOf(old)];
      if (rows.length !== were.length) continue;
      const columns = unitSpec(unit.kind).table?.columns ?? [];
      // A row says only what isn't as usual.
      for (const [n, row] of rows.entries()) {
        const other = were[n];
        const column = columns.find(({ id, default: usual }) => (row[id] ?? usual) !== (other?.[id] ?? usual));
        if (column) return addressInTable(address, n, column.id);
      }
    }
  }
  return null;
}

let stop: () => void = () => {};

/** Ends listening. */
export function listenNoMore(): void {
  stop();
  stop = () => {};
  useListening.setState({ item: null });
}

/** Lets an item move whatever is moved next, at any station; Escape ends it. */
export function listenFor(id: string): void {
  listenNoMore();
  useListening.setState({ item: id });
  tell("warning", "Move any control at any station: the item will move that. Escape ends it.");
  const unsubscribe = session.store.subscribe((now, then) => {
    const [before, after] = [then.history?.present, now.history?.present];
    if (!before || !after || before === after) return;
    const item = after.face.items.find((i) => i.id === id);
    if (!item || before.id !== after.id) return listenNoMore();
    const address = movedBetween(before, after);
    const spec = address === null ? null : findParam(after, address)?.spec;
    if (address === null || !spec) return;
    const { takes, most } = faceKind(item.kind);
    if (takes !== "any" && takes !== spec.type) return;
    listenNoMore();
    const binds = movesRow(item.kind) ? [...new Set([...bindsOf(item), address])].slice(-most) : [address];
    const { moves } = boundTo(item, binds);
    // Not while the change that was heard is still being told.
    queueMicrotask(() => {
      commitFace(changeFaceItem(id, "Bind to what was moved", { moves }));
      tell("good", `${itemName(after, item)} moves ${findParam(after, address)?.label ?? "it"} now.`);
    });
  });
  const onKey = (event: KeyboardEvent) => event.key === "Escape" && listenNoMore();
  addEventListener("keydown", onKey, { capture: true });
  stop = () => {
    unsubscribe();
    removeEventListener("keydown", onKey, { capture: true });
  };
}
