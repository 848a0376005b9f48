import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import type { Take } from "../../../core/instrument";
import { Empty, Station } from "../../shell/Station";
import { audition, useWave } from "../../state/audio-queries";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { type Span, spanAround } from "../../widgets/wave-span";
import { makeSamples } from "./make-samples";
import { SliceInspector } from "./SliceInspector";
import { SliceTable } from "./SliceTable";
import { SliceWave } from "./SliceWave";
import { Threshold } from "./Threshold";
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

function CutTake({ take, takes }: { take: Take; takes: readonly Take[] }) {
  const navigate = useNavigate();
  const wave = useWave(take.sha);
  const search = useSearch(take);
  const sliceIds = useView((v) => v.sliceIds);
  const [span, setSpan] = useState<Span>({ from: 0, to: take.frames });
  const kept = take.slices.filter((s) => s.keep);
  const [first] = take.slices.filter((s) => sliceIds.has(s.id));

  const select = (id: string, more: boolean) => {
    const next = new Set(more ? sliceIds : []);
    if (more && next.has(id)) next.delete(id);
    else next.add(id);
    setView({ sliceIds: next });
    const slice = take.slices.find((s) => s.id === id);
    if (slice && !more) void audition(take.sha, slice.start, slice.end);
  };
  // The slice that was chosen in the list comes into view.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only a new choice moves the view
  useEffect(() => {
    if (!first) return;
    const whole = span.to - span.from > 0.6 * take.frames;
    if (!whole && (first.start < span.from || first.end > span.to))
      setSpan(spanAround(first.start, first.end, take.frames, 1));
  }, [first?.id]);

  const shown = search.preview?.slices.length ?? kept.length;
  return (
    <Station
      title="Cut"
      facts={take.slices.length > 0 ? `${shown} sounds · ${take.slices.length - kept.length} left out` : null}
      actions={
        <>
          <Choice
            label="Take"
            value={take.id}
            options={takes.map((t) => ({ id: t.id, label: t.name }))}
            onChange={(id) => setView({ takeId: id, sliceIds: new Set() })}
            className="w-[130px]"
          />
          <Threshold value={search.preview?.threshold ?? take.threshold} show={search.show} settle={search.settle} />
          {take.slices.length === 0 ? (
            <Button
              look="primary"
              onClick={() => void search.settle(take.threshold)}
              hint="Finds every sound above the threshold and measures its pitch and level"
            >
              Find sounds
            </Button>
          ) : (
            <Button
              look="primary"
              disabled={kept.length === 0 || search.preview !== null}
              onClick={() => void makeSamples(take, (to) => void navigate(to))}
              hint="Cuts the kept slices out as samples of the instrument; the take stays"
            >
              Make {kept.length} samples
            </Button>
          )}
        </>
      }
      inspector={<SliceInspector take={take} />}
    >
      {wave.error ? (
        <Empty title={`The sound of ${take.name} isn't there`}>{wave.error.message}</Empty>
      ) : wave.data ? (
        <>
          <SliceWave
            take={take}
            wave={wave.data}
            span={span}
            onSpan={setSpan}
            preview={search.preview?.slices ?? null}
            onSelect={select}
          />
          <SliceTable
            take={take}
            onSelect={select}
            onShow={(s) => setSpan(spanAround(s.start, s.end, take.frames, 0.3))}
          />
        </>
      ) : (
        <Empty title={`Reading ${take.name} …`}>The waveform comes in a moment.</Empty>
      )}
    </Station>
  );
}
