import { addressInTable, findParam, type Instrument, listParams, placeInTable } from "../instrument";

/**
 * The parameter after one: the same of the next row of its table, of the next unit of its kind in its list, of the next layer, the next macro; null where
 * there is none. So that copies of an item move one thing after the other.
 */
export function nextBinding(doc: Instrument, address: string): string | null {
  const there = (next: string): string | null => (findParam(doc, next) ? next : null);
  const cell = placeInTable(address);
  if (cell) return there(addressInTable(cell.unit, cell.row + 1, cell.column));
  const parts = address.split("/");
  const id = parts.at(-1);
  const before = parts.slice(0, -1).join("/");
  const list = parts.slice(0, -2).join("/");
  // Its siblings: units of one list that have this parameter.
  const siblings = [
    ...new Set(
      listParams(doc).flatMap((p) => {
        const place = p.address.split("/");
        return place.length === parts.length && place.at(-1) === id && place.slice(0, -2).join("/") === list
          ? [place.slice(0, -1).join("/")]
          : [];
      }),
    ),
  ];
  const next = siblings[siblings.indexOf(before) + 1];
  if (next !== undefined) return there(`${next}/${id}`);
  if (parts[0] !== "layers") return null;
  // The same of the next layer that has it.
  const layers = doc.layers.map((l) => l.id);
  for (const layer of layers.slice(layers.indexOf(parts[1] ?? "") + 1)) {
    const found = there(["layers", layer, ...parts.slice(2)].join("/"));
    if (found) return found;
  }
  return null;
}
