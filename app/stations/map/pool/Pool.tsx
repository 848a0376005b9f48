import { type DragEvent, useEffect, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { nameOfNote } from "../../../../core/audio";
import { listNotes, listZones, renameSample, type Sample } from "../../../../core/instrument";
import { formatNumber, plural } from "../../../../core/params";
import { audition } from "../../../state/audio-queries";
import { type Command, useCommands } from "../../../state/commands";
import { findMissing, useMissingSamples } from "../../../state/relinking";
import { session } from "../../../state/session";
import { wantThumbnails } from "../../../state/thumbnails";
import { useInstrument } from "../../../state/use-session";
import { setView, useView } from "../../../state/view";
import { Button } from "../../../widgets/Button";
import { MenuButton } from "../../../widgets/CommandMenu";
import { DataTable } from "../../../widgets/DataTable";
import { SearchField, wordsIn } from "../../../widgets/SearchField";
import { type Choosing, selectionAfter } from "../../../widgets/selection";
import type { Column } from "../../../widgets/TableRow";
import { bringIn } from "../bring-in";
import { PoolDetail } from "./PoolDetail";
import { POOL_COMMANDS } from "./pool-commands";
import { Thumbnail } from "./Thumbnail";

/** A sample with how many zones play it. */
interface Pooled {
  readonly sample: Sample;
  readonly zones: number;
  /** Whether its sound isn't in this browser. */
  readonly missing: boolean;
}

/** What is dragged from the pool, as the clipboard of a drag names it. */
export const DRAGGED_SAMPLES = "application/x-vise-samples";

const COLUMNS: readonly Column<Pooled>[] = [
  {
    id: "wave",
    title: "",
    width: "34px",
    sort: ({ sample }) => sample.loudness,
    text: ({ sample }) => `${formatNumber("decibels", sample.peak)}: hear it`,
    mark: ({ sample }) => <Thumbnail sha={sample.sha} />,
    act: ({ sample }) => {
      setView({ sampleIds: new Set([sample.sha]) });
      void audition(sample.sha, 0, sample.frames);
    },
  },
  {
    id: "name",
    title: "sample",
    width: "minmax(0,1fr)",
    sort: ({ sample }) => sample.name.toLowerCase(),
    text: ({ sample }) => sample.name,
    field: ({ sample }) => `Name of ${sample.name}`,
    edit: ({ sample }, text) => {
      const name = text.trim().slice(0, 200);
      if (name !== "") session.commit(renameSample(sample.sha, name));
      return name !== "";
    },
  },
  {
    id: "note",
    title: "note",
    width: "32px",
    sort: ({ sample }) => sample.pitch ?? undefined,
    text: ({ sample }) => (sample.pitch === null ? "–" : nameOfNote(Math.round(sample.pitch))),
  },
  {
    id: "length",
    title: "length",
    width: "50px",
    right: true,
    sort: ({ sample }) => sample.frames / sample.rate,
    text: ({ sample, missing }) => (missing ? "missing" : formatNumber("seconds", sample.frames / sample.rate)),
  },
];

const idOf = ({ sample }: Pooled): string => sample.sha;

function select(id: string, how: Choosing, order: readonly string[]): void {
  setView({ sampleIds: selectionAfter(useView.getState().sampleIds, id, how, order) });
}

/** Every sample of the instrument: heard by a click on its wave, renamed, searched, dragged onto the field. */
export function Pool() {
  const notes = useInstrument(listNotes);
  const zones = useInstrument(listZones);
  const sampleIds = useView((v) => v.sampleIds);
  const missing = useMissingSamples();
  const [sought, setSought] = useState("");
  useCommands("Pool", POOL_COMMANDS);
  const navigate = useNavigate();
  const bringing = useMemo<readonly Command[]>(
    () => [
      { id: "bring-in", label: "Import samples …", run: () => void bringIn(navigate) },
      { id: "bring-in-folder", label: "Import a folder …", run: () => void bringIn(navigate, true) },
    ],
    [navigate],
  );
  const rows = useMemo(() => {
    const uses = new Map<string, number>();
    for (const { sample } of zones) if (sample !== null) uses.set(sample, (uses.get(sample) ?? 0) + 1);
    return notes.map((sample) => ({ sample, zones: uses.get(sample.sha) ?? 0, missing: missing.has(sample.sha) }));
  }, [notes, zones, missing]);
  const shown = useMemo(() => {
    const words = wordsIn(sought);
    const textOf = ({ sample }: Pooled) =>
      `${sample.file?.path ?? ""} ${sample.name} ${sample.pitch === null ? "" : nameOfNote(Math.round(sample.pitch))}`.toLowerCase();
    return words.length === 0 ? rows : rows.filter((r) => words.every((w) => textOf(r).includes(w)));
  }, [rows, sought]);
  useEffect(() => {
    void wantThumbnails(notes.slice(0, 400).map((s) => s.sha));
  }, [notes]);
  const only = sampleIds.size === 1 ? notes.find((s) => sampleIds.has(s.sha)) : undefined;
  const waiting = rows.filter((r) => r.zones === 0).length;
  const drag = (event: DragEvent) => {
    const id = (event.target as HTMLElement).closest("[data-item]")?.getAttribute("data-item");
    if (!id) return;
    const ids = sampleIds.has(id) ? [...sampleIds] : [id];
    event.dataTransfer.setData(DRAGGED_SAMPLES, ids.join(" "));
    event.dataTransfer.effectAllowed = "copy";
  };
  return (
    <div
      className="flex min-h-0 flex-1 flex-col"
      onDragStart={drag}
      onPointerOver={(event) => {
        // Rows are made by the table: what is in them can be taken along from here.
        const row = (event.target as HTMLElement).closest<HTMLElement>("[data-item]");
        if (row) row.draggable = true;
      }}
    >
      <SearchField label="Search the samples" hint="name, folder, note" value={sought} onChange={setSought}>
        <MenuButton label="Import samples" commands={bringing} />
      </SearchField>
      {missing.size > 0 && (
        <p className="flex items-center justify-between gap-2 border-rule border-b bg-tint-vermilion px-3 py-1 text-s">
          <span>{plural(missing.size, "sample is", "samples are")} missing</span>
          <Button
            hint="Looks for them in a folder, by content, name and length; or drop them here"
            onClick={() => void findMissing()}
          >
            Find in a folder …
          </Button>
        </p>
      )}
      {notes.length === 0 ? (
        <p className="p-4 text-ink-soft">There are no samples yet: drop some anywhere, or cut a take.</p>
      ) : (
        <DataTable
          label="Samples"
          rows={shown}
          columns={COLUMNS}
          idOf={idOf}
          selected={sampleIds}
          onSelect={select}
          onOpen={({ sample }) => void audition(sample.sha, 0, sample.frames)}
          commands={POOL_COMMANDS}
          sortedBy="name"
          faded={(r) => r.zones > 0}
        />
      )}
      {only && <PoolDetail sample={only} />}
      <p className="border-rule border-t px-3 py-1.5 text-ink-soft text-s">
        {shown.length < rows.length
          ? `${shown.length} of ${plural(rows.length, "sample")}`
          : waiting > 0
            ? `${plural(waiting, "sample waits", "samples wait")}: drag onto a key, several to a key each; with Shift on white keys only`
            : "all are on the keys"}
      </p>
    </div>
  );
}
