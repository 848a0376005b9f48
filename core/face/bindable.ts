import { addressInTable, type FoundParam, type Instrument, listParams, rowsOf, type Unit } from "../instrument";
import { unitSpec } from "../units";

/** Something that an item can be bound to: one parameter, or as many as a table has rows. */
export interface Bindable {
  readonly id: string;
  readonly label: string;
  /** Where it stands: the macros, a layer, a send, the whole. */
  readonly group: string;
  readonly addresses: readonly string[];
}

const groupOf = ({ address }: FoundParam, doc: Instrument): string => {
  const [place, id] = address.split("/");
  if (place === "macros") return "Macros";
  if (place === "layers") return doc.layers.find((l) => l.id === id)?.name ?? "Layer";
  if (place === "sends") return doc.sends.find((s) => s.id === id)?.name ?? "Send";
  return place === "effects" ? "Master" : place === "play" ? "Playing" : "Motion";
};

/** The units of a document that have tables, with their addresses and the names of their layers. */
function* tabled(doc: Instrument): Generator<{ address: string; unit: Unit; layer: string }> {
  for (const { id, name, source, stages } of doc.layers) {
    for (const [address, unit] of [
      [`layers/${id}/source`, source] as const,
      ...stages.map((stage) => [`layers/${id}/stages/${stage.id}`, stage] as const),
    ])
      if (unitSpec(unit.kind).table) yield { address, unit, layer: name };
  }
}

/** A column of a table, all rows of it at once. */
const banksOf = (doc: Instrument): Bindable[] =>
  [...tabled(doc)].flatMap(({ address, unit, layer }) => {
    const spec = unitSpec(unit.kind).table;
    const count = rowsOf(unit).length;
    return (spec?.columns ?? [])
      .filter((column) => column.mod !== "none" && count > 0)
      .map((column) => ({
        id: `${address}/rows/*/${column.id}`,
        label: `${unit.name}: ${column.label.toLowerCase()} of all ${count} ${spec?.row}s`,
        group: layer,
        addresses: Array.from({ length: count }, (_, row) => addressInTable(address, row, column.id)),
      }));
  });

/** The corners of an envelope, in the order of its course. */
const CORNERS = ["attack", "hold", "decay", "sustain", "release"] as const;

/** Each envelope as a whole: all its corners at once. */
const envelopesOf = (doc: Instrument): Bindable[] => {
  const whole = (address: string, label: string, group: string): Bindable => ({
    id: `${address}/*`,
    label,
    group,
    addresses: CORNERS.map((corner) => `${address}/${corner}`),
  });
  return [
    ...doc.layers.map((l) => whole(`layers/${l.id}/amp`, `${l.name}: Whole envelope`, l.name)),
    ...doc.envelopes
      .filter((u) => u.kind === "envelope")
      .map((u) => whole(`envelopes/${u.id}`, `${u.name}: whole envelope`, "Motion")),
  ];
};

/** A column of a table, row by row. */
const cellsOf = (doc: Instrument): Bindable[] =>
  [...tabled(doc)].flatMap(({ address, unit, layer }) => {
    const spec = unitSpec(unit.kind).table;
    return (spec?.columns ?? [])
      .filter((column) => column.mod !== "none")
      .flatMap((column) =>
        rowsOf(unit)
          .slice(0, 64)
          .map((_, row) => ({
            id: addressInTable(address, row, column.id),
            label: `${unit.name}: ${column.label.toLowerCase()} of ${spec?.row} ${row + 1}`,
            group: layer,
            addresses: [addressInTable(address, row, column.id)],
          })),
      );
  });

/** All that an item which takes numbers, choices or both can be bound to; macros first. `many`: whole columns of tables, too. */
export function bindables(doc: Instrument, takes: "number" | "choice" | "any", many: boolean): readonly Bindable[] {
  const params = listParams(doc)
    .filter(({ spec }) => takes === "any" || spec.type === takes)
    .filter(({ address }) => !address.includes("/rows/"))
    .map(
      (param): Bindable => ({
        id: param.address,
        label: param.label,
        group: groupOf(param, doc),
        addresses: [param.address],
      }),
    );
  const macros = params.filter((p) => p.group === "Macros");
  const others = params.filter((p) => p.group !== "Macros");
  const all = [
    ...macros,
    ...(many ? [...banksOf(doc), ...envelopesOf(doc)] : []),
    ...others,
    ...(takes === "choice" ? [] : cellsOf(doc)),
  ];
  // What stands in one place stands together: whole columns of tables first in each.
  const groups = [...new Set(["Macros", ...doc.layers.map((l) => l.name), ...all.map((b) => b.group)])];
  const placeOf = new Map(groups.map((group, i) => [group, i]));
  return all.sort((x, y) => (placeOf.get(x.group) as number) - (placeOf.get(y.group) as number));
}
