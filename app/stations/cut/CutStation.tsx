import { startTransition, useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { addSlice, newSlice, type Take } from "../../../core/instrument";
import { Empty, Station } from "../../shell/Station";
import { audition, useWave } from "../../state/audio-queries";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { cx } from "../../widgets/class-names";
import { plural } from "../../widgets/plural";
import { type Span, spanAround } from "../../widgets/wave-span";
import { ExportDialog } from "./ExportDialog";
import { FindStrip } from "./FindStrip";
import { cutSamples, keepSamples } from "./make-samples";
import { NamePanel } from "./NamePanel";
import { RecutDialog } from "./RecutDialog";
import type { Recut } from "./recut";
import { SliceInspector } from "./SliceInspector";
import { SliceMatrix } from "./SliceMatrix";
import { SliceTable } from "./SliceTable";
import { SliceWave } from "./SliceWave";
import { sliceKeys } from "./slice-keys";
import { useLoopedAudition } from "./use-looped-audition";
import { useSearch } from "./use-search";

/** Cut: from a take to samples. */
export function CutStation() {
  const { takes } = useInstrument();
  const takeId = useView((v) => v.takeId);
  const navigate = useNavigate();
  const take = takes.find((t) => t.id === takeId) ?? takes[0] ?? null;
  if (!take) {
    return (
      <Station title="Cut">
        <Empty title="There is no take to cut">
          <p className="mb-4">Record or open one first.</p>
          <Button look="primary" onClick={() => void navigate("/take")}>
            Go to Take
          </Button>
        </Empty>
      </Station>
    );
  }
  return <CutTake key={take.id} take={take} takes={takes} />;
}

const PANELS = [
  { id: "list", label: "List" },
  { id: "matrix", label: "Matrix" },
  { id: "names", label: "Names" },
] as const;
type Panel = (typeof PANELS)[number]["id"];

/** The slices between the last chosen one and another, both included, in the order that is shown. */
function between(order: readonly string[], from: string | undefined, to: string): string[] {
  const [a, b] = [from === undefined ? -1 : order.indexOf(from), order.indexOf(to)];
  return a < 0 ? [to] : order.slice(Math.min(a, b), Math.max(a, b) + 1);
}

function CutTake({ take, takes }: { take: Take; takes: readonly Take[] }) {
  const navigate = useNavigate();
  const wave = useWave(take.sha);
  const search = useSearch(take);
  const sliceIds = useView((v) => v.sliceIds);
  const [span, setSpan] = useState<Span>({ from: 0, to: take.frames });
  const [panel, setPanel] = useState<Panel>("list");
  const [cursor, setCursor] = useState<number | null>(null);
  const [exporting, setExporting] = useState(false);
  const [recut, setRecut] = useState<Recut | null>(null);
  const kept = take.slices.filter((s) => s.keep);
  const chosen = take.slices.filter((s) => sliceIds.has(s.id));
  const [first] = chosen;
  const toggleLoop = useLoopedAudition(take, first ?? null);
  const keys = sliceKeys(take, sliceIds, cursor, toggleLoop);

  const select = (id: string, more: "" | "one" | "range", order: readonly string[] = take.slices.map((s) => s.id)) => {
    const last = [...sliceIds].at(-1);
    const next = new Set(more === "" ? [] : sliceIds);
    if (more === "range") for (const s of between(order, last, id)) next.add(s);
    else if (next.has(id)) next.delete(id);
    else next.add(id);
    setView({ sliceIds: next });
    const slice = take.slices.find((s) => s.id === id);
    if (slice && more === "") void audition(take.sha, slice.start, slice.end);
  };
  // The slice that was chosen in the list comes into view.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only a new choice moves the view
  useEffect(() => {
    if (!first) return;
    const whole = span.to - span.from > 0.6 * take.frames;
    if (!whole && (first.start < span.from || first.end > span.to))
      setSpan(spanAround(first.start, first.end, take.frames, 1));
  }, [first?.id]);

  const make = async () => {
    const made = await cutSamples(take);
    if (!made) return;
    if (made.mapped.size > 0) setRecut(made);
    else keepSamples(take, made, false, (to) => void navigate(to));
  };
  const addHere = () => {
    if (cursor === null) return;
    const end = Math.min(take.frames, cursor + take.rate);
    const id = `s${Math.round(cursor)}`;
    if (take.slices.some((s) => s.id === id)) return;
    session.commit(addSlice(take.id, newSlice({ id, start: Math.round(cursor), end: Math.round(end), edited: true })));
    setView({ sliceIds: new Set([id]) });
  };

  const shown = search.preview?.slices.length ?? kept.length;
  const left = take.slices.length - kept.length;
  return (
    <Station
      title="Cut"
      facts={
        take.slices.length > 0 || search.preview
          ? `${plural(shown, "sound")}${left > 0 ? ` · ${left} left out` : ""}`
          : null
      }
      actions={
        <>
          <Choice
            label="Take"
            value={take.id}
            options={takes.map((t) => ({ id: t.id, label: t.name }))}
            onChange={(id) => setView({ takeId: id, sliceIds: new Set() })}
            className="w-[150px]"
          />
          <Button
            disabled={cursor === null}
            hint="A slice by hand, one second from where the wave was clicked last"
            onClick={addHere}
          >
            New slice
          </Button>
          {take.slices.length === 0 ? (
            <Button
              look="primary"
              onClick={() => void search.settle({})}
              hint="Finds every sound and measures its pitch and level"
            >
              Find sounds
            </Button>
          ) : (
            <>
              <Button
                disabled={kept.length === 0}
                hint="Writes the kept (or the selected) slices as WAV or FLAC files"
                onClick={() => setExporting(true)}
              >
                Write files …
              </Button>
              <Button
                look="primary"
                disabled={kept.length === 0 || search.preview !== null}
                onClick={() => void make()}
                hint="Cuts the kept slices out as samples of the instrument; the take stays"
              >
                Make {plural(kept.length, "sample")}
              </Button>
            </>
          )}
        </>
      }
      inspector={<SliceInspector take={take} cursor={cursor} onLoop={toggleLoop} />}
    >
      <FindStrip
        take={take}
        search={search.preview?.search ?? take.search}
        show={(change) => void search.show(change)}
        settle={(change) => void search.settle(change)}
      />
      {wave.error ? (
        <Empty title={`The sound of ${take.name} isn't there`}>{wave.error.message}</Empty>
      ) : wave.data ? (
        <>
          <SliceWave
            take={take}
            wave={wave.data}
            span={span}
            onSpan={setSpan}
            search={search.preview?.search ?? take.search}
            preview={search.preview?.slices ?? null}
            cursor={cursor}
            onCursor={setCursor}
            onSelect={select}
          />
          {take.slices.length === 0 ? (
            <p className="shrink-0 border-rule border-t px-4 py-5 text-center text-ink-soft">
              “Find sounds” lists every sound of this take here, with its note and level.
            </p>
          ) : (
            <section aria-label="Slices of the take" className="flex h-[44%] shrink-0 flex-col border-rule border-t">
              <div
                role="tablist"
                aria-label="Show the slices as"
                className="flex h-7 shrink-0 border-rule border-b px-3"
              >
                {PANELS.map((p) => (
                  <button
                    key={p.id}
                    type="button"
                    role="tab"
                    aria-selected={panel === p.id}
                    onClick={() => startTransition(() => setPanel(p.id))}
                    className={cx(
                      "border-b-2 px-3",
                      panel === p.id
                        ? "border-cobalt font-semibold"
                        : "border-transparent text-ink-soft hover:text-ink",
                    )}
                  >
                    {p.label}
                  </button>
                ))}
              </div>
              {panel === "list" && (
                <SliceTable
                  take={take}
                  keys={keys}
                  onSelect={select}
                  onShow={(s) => setSpan(spanAround(s.start, s.end, take.frames, 0.3))}
                />
              )}
              {panel === "matrix" && <SliceMatrix take={take} keys={keys} onSelect={select} />}
              {panel === "names" && <NamePanel take={take} />}
            </section>
          )}
        </>
      ) : (
        <Empty title={`Reading ${take.name} …`}>The waveform comes in a moment.</Empty>
      )}
      <ExportDialog take={take} slices={chosen.length > 1 ? chosen : kept} open={exporting} onOpen={setExporting} />
      <RecutDialog
        recut={recut}
        onAnswer={(update) => {
          if (recut && update !== null) keepSamples(take, recut, update, (to) => void navigate(to));
          setRecut(null);
        }}
      />
    </Station>
  );
}
