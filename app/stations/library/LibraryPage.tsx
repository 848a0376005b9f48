import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Copy, Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { useNavigate } from "react-router";
import { plural } from "../../../core/params";
import { reasonOf } from "../../basis/reason-of";
import { Empty, Station } from "../../shell/Station";
import type { Command } from "../../state/commands";
import { copyName } from "../../state/copy-name";
import { deleteForGood, deleteStored, takeBack } from "../../state/deleted";
import { demoTakes } from "../../state/demo";
import { freshInstrument } from "../../state/fresh-instrument";
import { freshId } from "../../state/ids";
import { tell } from "../../state/notices";
import { opening, openStored } from "../../state/open-instrument";
import { session } from "../../state/session";
import { bytesText } from "../../state/storage-space";
import { measureUse, sweepAudio } from "../../state/sweep-audio";
import { useInstrument } from "../../state/use-session";
import { tabs } from "../../storage/instrument-locks";
import { type LibraryEntry, saveInstrument } from "../../storage/library";
import { Button } from "../../widgets/Button";
import { WithMenu } from "../../widgets/CommandMenu";
import { cx } from "../../widgets/class-names";
import { dateText } from "../../widgets/date-text";
import { documentWorker } from "../../workers/document-worker";

const KEY = ["library"];

/** The library: every instrument in this browser. */
export function LibraryPage() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const openId = useInstrument((i) => i.id);
  const [filter, setFilter] = useState("");
  const entries = useQuery({
    queryKey: [...KEY, openId],
    queryFn: async () => session.save().then(() => documentWorker().listInstruments()),
    staleTime: 0,
  });
  const deleted = useQuery({
    queryKey: [...KEY, "deleted"],
    queryFn: () => documentWorker().listDeleted(),
    staleTime: 0,
  });
  const use = useQuery({ queryKey: [...KEY, "use"], queryFn: measureUse, staleTime: 0 });
  const unused = [...(use.data?.unused.values() ?? [])].reduce((a, b) => a + b, 0);
  const refresh = () => client.invalidateQueries({ queryKey: KEY });
  const free = async () => {
    const freed = await sweepAudio(true);
    tell(
      freed > 0 ? "good" : "warning",
      freed > 0
        ? `${bytesText(freed)} are free.`
        : "Nothing was freed: another tab may still need it. Close the others first.",
    );
    await refresh();
  };
  const show = (id: string) => openStored(id, () => void navigate("/map"));
  const create = async (demo: boolean) => {
    const made = demo ? await demoTakes(freshId(), "New instrument") : freshInstrument();
    await opening(async (abandon) => {
      await session.begin(made, abandon);
      await navigate("/take");
      return true;
    });
  };
  const duplicate = async (entry: LibraryEntry) => {
    const loaded = await documentWorker().loadInstrument(entry.id);
    if (!loaded) return;
    if ("message" in loaded) {
      tell("error", `${loaded.message}.`);
      return;
    }
    const { instrument } = loaded;
    const name = copyName(entry.name, new Set((entries.data ?? []).map((e) => e.name)));
    await saveInstrument({ ...instrument, id: freshId(), about: { ...instrument.about, name } });
    tabs.say({ type: "library" });
    await refresh();
  };
  const remove = async (entry: LibraryEntry) => {
    if (!(await deleteStored(entry.id))) {
      tell("warning", `${entry.name} is open in another tab: close it there first.`);
      return;
    }
    tell("good", `${entry.name} was deleted. It can be taken back here for 30 days.`, {
      label: "Undo",
      run: () => write(() => restore(entry)),
    });
    await refresh();
  };
  const restore = async ({ id, name }: LibraryEntry) => {
    if (!(await takeBack(id))) tell("warning", `${name} wasn’t taken back: another tab is at it.`);
    await refresh();
  };
  const purge = async ({ id, name }: LibraryEntry) => {
    if (await deleteForGood(id)) tell("good", `${name} is gone for good; its sound goes with it within a day.`);
    await refresh();
  };
  // Whatever writes shuts the buttons until it is done, and says what went wrong.
  const writing = useMutation({
    mutationFn: (what: () => Promise<unknown>) => what(),
    onError: (error) => tell("error", `${reasonOf(error)}.`),
  });
  const write = (what: () => Promise<unknown>) => {
    if (!writing.isPending) writing.mutate(what);
  };
  const commands = (entry: LibraryEntry): readonly Command[] => [
    { id: "open", label: "Open", run: () => void show(entry.id) },
    { id: "duplicate", label: "Duplicate", why: busy, run: () => write(() => duplicate(entry)) },
    {
      id: "delete",
      label: "Delete",
      why: () => (entry.id === openId ? "open another first" : busy()),
      run: () => write(() => remove(entry)),
    },
  ];
  const busy = () => (writing.isPending ? "wait a moment" : null);
  const shown = (entries.data ?? []).filter((e) => `${e.name} ${e.maker}`.toLowerCase().includes(filter.toLowerCase()));
  return (
    <Station
      title="Library"
      facts={entries.data && `${plural(entries.data.length, "instrument")} in this browser`}
      actions={
        <>
          <input
            aria-label="Find an instrument"
            placeholder="find by name or maker"
            value={filter}
            onChange={(event) => setFilter(event.target.value)}
            className="h-7 w-44 rounded-[2px] bg-well px-2"
          />
          <Button
            disabled={writing.isPending}
            hint="A new instrument with the workshop's takes in it"
            onClick={() => write(() => create(true))}
          >
            With the demo takes
          </Button>
          <Button look="primary" disabled={writing.isPending} onClick={() => write(() => create(false))}>
            <Plus size={14} aria-hidden /> New instrument
          </Button>
        </>
      }
      inspector={
        <>
          <h2 className="mb-2 font-display font-semibold text-l">Yours, and here</h2>
          <p className="text-ink-soft">
            Everything is kept in this browser and saved by itself. To move an instrument elsewhere, export its package
            at Ship; drop a package anywhere to open it.
          </p>
          <Deleted
            entries={deleted.data ?? []}
            busy={writing.isPending}
            restore={(entry) => write(() => restore(entry))}
            purge={(entry) => write(() => purge(entry))}
          />
          {unused > 0 && (
            <>
              <p className="mt-4 mb-2 text-ink-soft">
                {bytesText(unused)} of sound belong to no instrument, version or undo step. They go by themselves after
                a day.
              </p>
              <Button disabled={writing.isPending} onClick={() => write(() => free())}>
                Free them now
              </Button>
            </>
          )}
        </>
      }
    >
      {entries.error ? (
        <Empty title="The library can't be read">{reasonOf(entries.error)}</Empty>
      ) : !entries.data ? (
        <Empty title="Looking …">The library is being read.</Empty>
      ) : shown.length === 0 ? (
        <Empty title={filter === "" ? "No instruments yet" : "Nothing by that name"}>
          {filter === ""
            ? "Begin with a new one, or drop a package anywhere."
            : "Clear the field above to see all instruments."}
        </Empty>
      ) : (
        <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="Instruments">
          {shown.map((entry) => (
            <WithMenu key={entry.id} commands={commands(entry)}>
              <li
                className={cx(
                  "grid grid-cols-[1fr_90px_80px_76px_150px_84px] items-center gap-3 border-rule border-b px-3.5",
                  entry.id === openId && "bg-tint-cobalt",
                )}
              >
                <button type="button" onClick={() => void show(entry.id)} className="min-w-0 py-2.5 text-left">
                  <b className="block truncate font-display font-semibold text-l">{entry.name}</b>
                  <span className="block truncate text-ink-soft">
                    {entry.id === openId ? "open now" : entry.maker || "no maker"}
                  </span>
                </button>
                <span className="num text-right text-[12px]">{plural(entry.zones, "zone")}</span>
                <span className="num text-right text-[12px]">{plural(entry.takes, "take")}</span>
                <span className="num text-right text-[12px]">
                  {use.data ? bytesText(use.data.of.get(entry.id) ?? 0) : "…"}
                </span>
                <span className="num text-right text-[12px] text-ink-soft">{dateText(entry.changed)}</span>
                <span className="flex justify-end">
                  <Button
                    look="quiet"
                    aria-label={`Duplicate ${entry.name}`}
                    hint="Duplicate"
                    className="px-1.5"
                    disabled={writing.isPending}
                    onClick={() => write(() => duplicate(entry))}
                  >
                    <Copy size={14} aria-hidden />
                  </Button>
                  <Button
                    look="quiet"
                    aria-label={`Delete ${entry.name}`}
                    hint={entry.id === openId ? "It is open: open another first" : "Delete"}
                    disabled={entry.id === openId || writing.isPending}
                    className="px-1.5"
                    onClick={() => write(() => remove(entry))}
                  >
                    <Trash2 size={14} aria-hidden />
                  </Button>
                </span>
              </li>
            </WithMenu>
          ))}
        </ul>
      )}
    </Station>
  );
}

interface DeletedProps {
  readonly entries: readonly LibraryEntry[];
  readonly busy: boolean;
  readonly restore: (entry: LibraryEntry) => void;
  readonly purge: (entry: LibraryEntry) => void;
}

/** What was deleted and can still be taken back. */
function Deleted({ entries, busy, restore, purge }: DeletedProps) {
  if (entries.length === 0) return null;
  return (
    <>
      <h2 className="mt-4 mb-1 font-display font-semibold text-l">Deleted</h2>
      <p className="mb-1 text-ink-soft">Kept for 30 days, with their sound.</p>
      <ul aria-label="Deleted instruments" className="max-h-64 overflow-y-auto">
        {entries.map((entry) => (
          <li key={entry.id} className="flex items-center gap-1 border-rule border-t py-1">
            <span className="min-w-0 flex-1 truncate" title={entry.name}>
              {entry.name}
            </span>
            <Button disabled={busy} aria-label={`Restore ${entry.name}`} onClick={() => restore(entry)}>
              Restore
            </Button>
            <Button
              look="quiet"
              disabled={busy}
              aria-label={`Delete ${entry.name} for good`}
              hint="Delete it for good"
              className="px-1.5"
              onClick={() => purge(entry)}
            >
              <Trash2 size={14} aria-hidden />
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}
