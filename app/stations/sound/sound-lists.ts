import { type Instrument, type Layer, liveLinks, type Unit, type UnitList } from "../../../core/instrument";
import { type Place as UnitPlace, unitSpec } from "../../../core/units";

/** A row of the station: a layer, a send or the whole, with what its sound goes through in order. */
export interface Lane {
  readonly id: string;
  readonly name: string;
  readonly kind: "layer" | "send" | "whole";
  /** Where its sound goes, in words. */
  readonly goes: string;
  readonly parts: readonly LanePart[];
}

/** A part of a row: one unit that always stands there, or a list in which units come and go. */
export type LanePart =
  | { readonly kind: "unit"; readonly address: string; readonly unit: Unit }
  | { readonly kind: "list"; readonly list: UnitList; readonly place: UnitPlace; readonly units: readonly Unit[] };

/** Where a layer's sound goes: to the whole, into the layers that hear it, and what listens to it. */
function goesTo({ id, strip }: Layer, { layers, sends, effects }: Rows): string {
  const into = liveLinks({ layers })
    .filter((link) => link.from === id && link.as === "notes")
    .map((link) => layers.find((l) => l.id === link.to)?.name ?? "");
  const heard = Number(strip.params.mute ?? 0) < 0.5;
  const onBuses = [...layers.flatMap((l) => l.inserts), ...sends.flatMap((s) => s.units), ...effects];
  const listeners = onBuses.filter((u) => u.from === id && unitSpec(u.kind).links === "sum").map((u) => u.name);
  const places = [...(heard ? ["master"] : []), ...new Set([...into, ...listeners])];
  return places.length > 0 ? places.join(", ") : "nowhere: muted";
}

type Rows = Pick<Instrument, "layers" | "sends" | "effects">;

/** All rows of an instrument; of the sends those with something in them, and the first without. */
export function lanesOf(rows: Rows): Lane[] {
  const { layers, sends, effects } = rows;
  const empty = sends.find((s) => s.units.length === 0);
  return [
    ...layers.map((layer): Lane => {
      const at = `layers/${layer.id}` as const;
      return {
        id: at,
        name: layer.name,
        kind: "layer",
        goes: goesTo(layer, rows),
        parts: [
          { kind: "unit", address: `${at}/source`, unit: layer.source },
          { kind: "list", list: `${at}/stages`, place: "stage", units: layer.stages },
          { kind: "unit", address: `${at}/amp`, unit: layer.amp },
          { kind: "unit", address: `${at}/strip`, unit: layer.strip },
          { kind: "list", list: `${at}/inserts`, place: "insert", units: layer.inserts },
        ],
      };
    }),
    ...sends
      .filter((send) => send.units.length > 0 || send === empty)
      .map(
        (send): Lane => ({
          id: `sends/${send.id}`,
          name: send.name,
          kind: "send",
          goes: "master",
          parts: [{ kind: "list", list: `sends/${send.id}`, place: "send", units: send.units }],
        }),
      ),
    {
      id: "effects",
      name: "Master",
      kind: "whole",
      goes: "level, limiter, out",
      parts: [{ kind: "list", list: "effects", place: "main", units: effects }],
    },
  ];
}

/** Units in a row from which on their pictures alone stand there: so many fit beside each other with their names. */
const CROWDED = 7;

/** Whether any row has so many units that their names wouldn't fit. */
export const isCrowded = (lanes: readonly Lane[]): boolean =>
  lanes.some(({ parts }) => parts.reduce((n, p) => n + (p.kind === "unit" ? 1 : p.units.length), 0) > CROWDED);
