import { type ReactNode, useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { addSlice, newSlice, type Take } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { reasonOf } from "../../basis/reason-of";
import { Empty, Station } from "../../shell/Station";
import { audition, useWave } from "../../state/audio-queries";
import { useCommands } from "../../state/commands";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { Split } from "../../widgets/Split";
import { type Choosing, selectionAfter } from "../../widgets/selection";
import { type Span, spanAround } from "../../widgets/wave-span";
import { CutActions } from "./CutActions";
import { ExportDialog } from "./ExportDialog";
import { FindStrip } from "./FindStrip";
import { cutSamples, keepSamples } from "./make-samples";
import { RecutDialog } from "./RecutDialog";
import { askRecut, useRecutQuestion } from "./recut-question";
import { SliceInspector } from "./SliceInspector";
import { SlicePanels } from "./SlicePanels";
import { SliceWave } from "./SliceWave";
import { sliceCommands } from "./slice-commands";
import { useLoopedAudition } from "./use-looped-audition";
import { useSearch } from "./use-search";

/** Cut: from a take to samples. */
export function CutStation() {
  const takes = useInstrument((i) => i.takes);
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
  return (
    <>
      <CutTake key={take.id} take={take} takes={takes} />
      <AskedRecut />
    </>
  );
}

/** What a new cut does to what is in use, as long as it isn't answered. */
function AskedRecut() {
  const question = useRecutQuestion((q) => q.question);
  const navigate = useNavigate();
  return (
    <RecutDialog
      recut={question?.recut ?? null}
      onAnswer={(update) => {
        askRecut(null);
        if (question && update !== null)
          void keepSamples(question.errand, question.take, question.recut, update, (to) => void navigate(to));
      }}
    />
  );
}

function CutTake({ take, takes }: { take: Take; takes: readonly Take[] }) {
  const navigate = useNavigate();
  const wave = useWave(take.sha);
  const search = useSearch(take);
  const sliceIds = useView((v) => v.sliceIds);
  const [span, setSpan] = useState<Span>({ from: 0, to: take.frames });
  const [cursor, setCursor] = useState<number | null>(null);
  const [exporting, setExporting] = useState(false);
  const kept = take.slices.filter((s) => s.keep);
  const chosen = take.slices.filter((s) => sliceIds.has(s.id));
  const [first] = chosen;
  const toggleLoop = useLoopedAudition(take, first ?? null);
  const commands = useMemo(() => sliceCommands(take, cursor, toggleLoop), [take, cursor, toggleLoop]);

  const select = (id: string, how: Choosing, order: readonly string[] = take.slices.map((s) => s.id)) => {
    setView({ sliceIds: selectionAfter(sliceIds, id, how, order) });
    const slice = take.slices.find((s) => s.id === id);
    if (slice && how === "") void audition(take.sha, slice.start, slice.end);
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
    if (made.recut.mapped.size > 0) askRecut({ ...made, take });
    else void keepSamples(made.errand, take, made.recut, false, (to) => void navigate(to));
  };
  const addHere = (at: number) => {
    const end = Math.min(take.frames, at + take.rate);
    const id = `s${Math.round(at)}`;
    if (take.slices.some((s) => s.id === id)) return;
    session.commit(addSlice(take.id, newSlice({ id, start: Math.round(at), end: Math.round(end), edited: true })));
    setView({ sliceIds: new Set([id]) });
  };

  const acts = useRef({ find: () => {}, make: () => {}, files: () => {} });
  acts.current = {
    find: () => void search.settle({}),
    make: () => void make(),
    files: () => setExporting(true),
  };
  const none = kept.length === 0 ? "find sounds first" : null;
  useCommands(
    "Cut",
    useMemo(
      () => [
        ...commands,
        { id: "find", label: "Find sounds", run: () => acts.current.find() },
        { id: "make", label: "Make samples of the kept slices", why: () => none, run: () => acts.current.make() },
        { id: "files", label: "Export the slices as files", why: () => none, run: () => acts.current.files() },
      ],
      [commands, none],
    ),
  );

  // The list comes a moment after the wave, so that its many fields don't hold up what was clicked.
  const listed = useDeferredValue(take.slices.length > 0, false);
  const shown = search.preview?.slices.length ?? kept.length;
  const left = take.slices.length - kept.length;
  return (
    <Station
      title="Cut"
      facts={
        take.slices.length > 0 || search.preview
          ? `${plural(shown, "sound")}${left > 0 ? ` · ${left} excluded` : ""}`
          : null
      }
      actions={
        <CutActions
          take={take}
          takes={takes}
          kept={kept.length}
          searching={search.preview !== null}
          onAdd={cursor === null ? null : () => addHere(cursor)}
          onFind={() => void search.settle({})}
          onExport={() => setExporting(true)}
          onMake={() => void make()}
        />
      }
      inspector={<SliceInspector take={take} cursor={cursor} onLoop={toggleLoop} />}
    >
      <FindStrip
        take={take}
        search={search.preview?.search ?? take.search}
        show={(change) => void search.show(change)}
        settle={(change) => void search.settle(change)}
        forget={search.forget}
      />
      {wave.error ? (
        <Empty title={`The sound of ${take.name} isn't there`}>{reasonOf(wave.error)}</Empty>
      ) : wave.data ? (
        <WaveAndList
          wave={
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
          }
          list={
            take.slices.length > 0 && (
              <section aria-label="Slices of the take" className="flex min-h-0 flex-1 flex-col">
                {listed && (
                  <SlicePanels
                    take={take}
                    commands={commands}
                    onSelect={select}
                    onShow={(s) => setSpan(spanAround(s.start, s.end, take.frames, 0.3))}
                  />
                )}
              </section>
            )
          }
        />
      ) : (
        <Empty title={`Reading ${take.name} …`}>The waveform comes in a moment.</Empty>
      )}
      <ExportDialog take={take} slices={chosen.length > 1 ? chosen : kept} open={exporting} onOpen={setExporting} />
    </Station>
  );
}

/** The wave above the list of what was found in it. */
function WaveAndList({ wave, list }: { wave: ReactNode; list: ReactNode }) {
  if (!list)
    return (
      <>
        {wave}
        <p className="shrink-0 border-rule border-t px-4 py-5 text-center text-ink-soft">
          “Find sounds” lists every sound of this take here, with its note and level.
        </p>
      </>
    );
  return (
    <Split id="cut" label="Height of the list" as="rows" size="44%" least={[110, 90]} first={wave} second={list} />
  );
}
