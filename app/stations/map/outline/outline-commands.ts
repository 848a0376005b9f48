import { nameOfNote } from "../../../../core/audio";
import {
  addGroup,
  addLayer,
  addUnit,
  duplicateGroup,
  duplicateLayer,
  type Edit,
  listZones,
  moveZones,
  newGroup,
  newLayer,
  newUnit,
  partIntoGroups,
  removeGroup,
  removeLayer,
  removeUnit,
} from "../../../../core/instrument";
import { plural } from "../../../../core/params";
import type { Command } from "../../../state/commands";
import { copyName, freeName } from "../../../state/copy-name";
import { freshId } from "../../../state/ids";
import { session } from "../../../state/session";
import { setView, useView } from "../../../state/view";
import { samplesBySha } from "../zone-names";
import { CHOSEN_ZONES, dropOn, groupAddress, layerAddress, type OutlineRow, outlineRows } from "./outline-rows";

/** Opens something of the outline. */
export const openOutlined = (outlined: string | null): void => setView({ outlined });

/** Does an edit and opens what it made. */
function make(edit: Edit, address: string): void {
  session.commit(edit);
  openOutlined(address);
}

const layers = () => session.instrument?.layers ?? [];
const groupsOf = (layer: string) => layers().find((l) => l.id === layer)?.groups ?? [];
const names = (list: readonly { readonly name: string }[]) => new Set(list.map((x) => x.name));
const ids = (list: readonly { readonly id: string }[]) => new Set(list.map((x) => x.id));

export function makeLayer(): void {
  const id = freshId(ids(layers()));
  make(addLayer(newLayer(id, freeName("Layer", layers().length + 1, names(layers())))), layerAddress(id));
}

export function makeGroup(layer: string): void {
  const groups = groupsOf(layer);
  const id = freshId(ids(groups));
  make(addGroup(layer, newGroup(id, freeName("Group", groups.length + 1, names(groups)))), groupAddress(layer, id));
}

const UNITS = { sets: { kind: "set", name: "Set" }, mics: { kind: "mic", name: "Mic" } } as const;

/** Adds a set of layers or a microphone. */
export function makeUnit(list: keyof typeof UNITS): void {
  const units = session.instrument?.[list] ?? [];
  const id = freshId(ids(units));
  const { kind, name } = UNITS[list];
  make(addUnit(list, newUnit(kind, id, freeName(name, units.length + 1, names(units)))), `${list}/${id}`);
}

/** Removes a set or a microphone; what named it has none then. */
export function dropUnit(list: keyof typeof UNITS, id: string): void {
  session.commit(removeUnit(list, id));
  openOutlined(null);
}

/** Selects the zones of a row. */
export function selectZonesOf({ kind, layer, id }: OutlineRow): void {
  const groups = groupsOf(layer).filter((g) => kind === "layer" || g.id === id);
  setView({ zoneIds: new Set(groups.flatMap((g) => g.zones.map((z) => z.id))), mapSide: "zones" });
}

const someChosen = () => (useView.getState().zoneIds.size > 0 ? null : "no zone is selected");

/** What can be done with a layer or a group. */
export function rowCommands(row: OutlineRow): readonly Command[] {
  const { kind, layer, id } = row;
  const own = () => (kind === "layer" ? layers().find((l) => l.id === id) : groupsOf(layer).find((g) => g.id === id));
  const select: Command = {
    id: "select",
    label: "Select its zones",
    why: () => (row.zones > 0 ? null : "it has none"),
    run: () => selectZonesOf(row),
  };
  if (kind === "layer")
    return [
      select,
      { id: "add", label: "Add a group", run: () => makeGroup(layer) },
      {
        id: "duplicate",
        label: "Duplicate the layer",
        run: () => {
          const copy = freshId(ids(layers()));
          make(duplicateLayer(id, copy, copyName(own()?.name ?? "", names(layers()))), layerAddress(copy));
        },
      },
      {
        id: "remove",
        label: `Remove the layer${row.zones > 0 ? ` with ${plural(row.zones, "zone")}` : ""}`,
        why: () => (layers().length < 2 ? "the last one stays" : null),
        run: () => {
          session.commit(removeLayer(id));
          openOutlined(null);
        },
      },
    ];
  return [
    select,
    {
      id: "take",
      label: "Move the selected zones here",
      why: someChosen,
      run: () => session.commit(moveZones(useView.getState().zoneIds, layer, id)),
    },
    {
      id: "duplicate",
      label: "Duplicate the group",
      run: () => {
        const before = ids(groupsOf(layer));
        session.commit(duplicateGroup(layer, id, copyName(own()?.name ?? "", names(groupsOf(layer)))));
        const made = groupsOf(layer).find((g) => !before.has(g.id));
        if (made) openOutlined(groupAddress(layer, made.id));
      },
    },
    {
      id: "remove",
      label: `Remove the group${row.zones > 0 ? ` with ${plural(row.zones, "zone")}` : ""}`,
      run: () => {
        session.commit(removeGroup(layer, id));
        openOutlined(null);
      },
    },
  ];
}

/** More groups than that in a layer are none that anybody meant to make. */
const MOST_GROUPS = 128;

/** Puts zones into what a row of the outline stands for. */
export function dropZones(address: string, zones: ReadonlySet<string>): void {
  const edit = dropOn(outlineRows(layers()), CHOSEN_ZONES, address, zones);
  if (edit) session.commit(edit);
}

/** Why the selected zones can't be parted by something; null where they can. */
function tooMany(nameOf: (sample: string | null, root: number) => string): string | null {
  const { instrument } = session;
  const { zoneIds } = useView.getState();
  if (!instrument || zoneIds.size === 0) return "select a zone first";
  const zones = listZones(instrument).filter((z) => zoneIds.has(z.id));
  const count = new Set(zones.map((z) => nameOf(z.sample, z.root))).size;
  return count > MOST_GROUPS ? `that would be ${count} groups` : null;
}

const byRoot = (_sample: string | null, root: number): string => nameOfNote(root);
const bySample = (sample: string | null): string =>
  samplesBySha(session.instrument?.samples ?? []).get(sample ?? "")?.name ?? "No sample";

/** Ways to part the selected zones into groups: a kit has one for each sound. */
export const PART_COMMANDS: readonly Command[] = (
  [
    ["kit-roots", "Make a kit: a group for each root", byRoot],
    ["kit-samples", "Make a kit: a group for each sample", bySample],
  ] as const
).map(([id, label, nameOf]) => ({
  id,
  label,
  why: () => tooMany(nameOf),
  run: () => {
    session.commit(partIntoGroups(useView.getState().zoneIds, (z) => nameOf(z.sample, z.root)));
    setView({ mapSide: "outline" });
  },
}));
