import { useMemo, useState } from "react";
import { nameOfNote } from "../../../core/audio";
import { type Instrument, listZones, type Zone } from "../../../core/instrument";
import { partZones } from "../../state/selected-zones";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { DataTable } from "../../widgets/DataTable";
import { SearchField, wordsIn } from "../../widgets/SearchField";
import { type Choosing, selectionAfter } from "../../widgets/selection";
import type { Column } from "../../widgets/TableRow";
import { ZONE_COMMANDS } from "./map-commands";
import { FIELDS, type NumberField, typeField } from "./zone-fields";
import { nameOfZone, samplesBySha } from "./zone-names";

/** A zone with what it belongs to. */
interface ListedZone {
  readonly zone: Zone;
  readonly name: string;
  readonly group: string;
}

/** What is typed in a row goes to all selected zones when it is one of them. */
function type(zone: Zone, id: NumberField, text: string): boolean {
  const { zoneIds } = useView.getState();
  const { instrument } = session;
  const several = instrument && zoneIds.has(zone.id) ? partZones(listZones(instrument), zoneIds).chosen : [zone];
  return typeField(several, id, text);
}

const number = (id: NumberField, title: string, width: string): Column<ListedZone> => ({
  id,
  title,
  width,
  right: true,
  sort: ({ zone }) => zone[id],
  text: ({ zone }) => FIELDS[id].format(zone[id]),
  field: ({ name }) => `${title} of ${name}`,
  edit: ({ zone }, text) => type(zone, id, text),
});

const COLUMNS: readonly Column<ListedZone>[] = [
  { id: "sample", title: "sample", width: "minmax(0,1.4fr)", sort: (r) => r.name.toLowerCase(), text: (r) => r.name },
  number("root", "root", "48px"),
  number("keyLow", "from key", "52px"),
  number("keyHigh", "to key", "48px"),
  number("velLow", "from vel.", "48px"),
  number("velHigh", "to vel.", "42px"),
  number("repeat", "repeat", "44px"),
  number("tune", "tuning", "66px"),
  number("gain", "level", "62px"),
  number("pan", "pan", "54px"),
  number("track", "tracking", "52px"),
  {
    id: "loop",
    title: "loop",
    width: "32px",
    sort: ({ zone }) => zone.loop?.mode,
    text: ({ zone }) => (zone.loop ? "yes" : "–"),
  },
  { id: "group", title: "group", width: "minmax(0,0.6fr)", sort: (r) => r.group, text: (r) => r.group },
];

function rowsOf({ layers, samples }: Pick<Instrument, "layers" | "samples">): ListedZone[] {
  const names = samplesBySha(samples);
  return layers.flatMap((layer) =>
    layer.groups.flatMap((group) =>
      group.zones.map((zone) => ({
        zone,
        name: nameOfZone(zone, names),
        group: layers.length > 1 ? `${layer.name}: ${group.name}` : group.name,
      })),
    ),
  );
}

/** The rows in which every word is found. */
function found(rows: readonly ListedZone[], sought: string): readonly ListedZone[] {
  const words = wordsIn(sought);
  if (words.length === 0) return rows;
  return rows.filter(({ zone, name, group }) => {
    const text = `${name} ${group} ${nameOfNote(zone.root)} ${zone.mic ?? ""} ${zone.loop ? "loop" : ""}`.toLowerCase();
    return words.every((w) => text.includes(w));
  });
}

const idOf = ({ zone }: ListedZone): string => zone.id;

function select(id: string, how: Choosing, order: readonly string[]): void {
  setView({ zoneIds: selectionAfter(useView.getState().zoneIds, id, how, order) });
}

/** The zones as a list: everything that the field shows, in words and numbers. */
export function ZoneList() {
  const layers = useInstrument((i) => i.layers);
  const samples = useInstrument((i) => i.samples);
  const zoneIds = useView((v) => v.zoneIds);
  const [sought, setSought] = useState("");
  const rows = useMemo(() => rowsOf({ layers, samples }), [layers, samples]);
  const shown = useMemo(() => found(rows, sought), [rows, sought]);
  return (
    <>
      <SearchField
        label="Show only some zones"
        hint="name, group, root, loop: only these are shown"
        value={sought}
        onChange={setSought}
      >
        {shown.length < rows.length && (
          <span className="num shrink-0 text-ink-soft text-s">
            {shown.length} of {rows.length}
          </span>
        )}
      </SearchField>
      <DataTable
        label="Zones"
        rows={shown}
        columns={COLUMNS}
        idOf={idOf}
        selected={zoneIds}
        onSelect={select}
        commands={ZONE_COMMANDS}
        sortedBy="root"
      />
    </>
  );
}
