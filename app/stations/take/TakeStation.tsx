import { FolderOpen, Trash2 } from "lucide-react";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { changeTake, type Take } from "../../../core/instrument";
import { formatNumber } from "../../../core/params";
import { Empty, Station } from "../../shell/Station";
import { audition, useWave } from "../../state/audio-queries";
import { dropTake, openFiles } from "../../state/files";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { cx } from "../../widgets/class-names";
import { Row, Section } from "../../widgets/ParamControl";
import { plural } from "../../widgets/plural";
import { WaveView } from "../../widgets/WaveView";
import { Well } from "../../widgets/Well";
import type { Span } from "../../widgets/wave-span";
import { RecordStrip } from "./RecordStrip";
import { Recovery } from "./Recovery";

const ORIGINS = { imported: "imported", recorded: "recorded here", demo: "demo" } as const;

/** Take: record, open and look over the recordings. */
export function TakeStation() {
  const { takes } = useInstrument();
  const takeId = useView((v) => v.takeId);
  const navigate = useNavigate();
  const picker = useRef<HTMLInputElement>(null);
  const take = takes.find((t) => t.id === takeId) ?? takes[0] ?? null;
  const seconds = takes.reduce((sum, t) => sum + t.frames / t.rate, 0);
  return (
    <Station
      title="Recordings"
      facts={takes.length > 0 ? `${plural(takes.length, "take")} · ${seconds.toFixed(0)} s` : null}
      actions={
        <>
          <input
            ref={picker}
            type="file"
            multiple
            hidden
            data-testid="open-files"
            onChange={(event) => {
              void openFiles([...(event.target.files ?? [])], (to) => void navigate(to));
              event.target.value = "";
            }}
          />
          <Button
            hint="Opens WAV recordings or a package; you can also drop them anywhere"
            onClick={() => picker.current?.click()}
          >
            <FolderOpen size={14} aria-hidden /> Open files
          </Button>
          {take && (
            <Button look="primary" hint="Find the sounds in this take" onClick={() => void navigate("/cut")}>
              Cut this take
            </Button>
          )}
        </>
      }
      inspector={take && <TakeDetails key={take.id} take={take} />}
    >
      <RecordStrip />
      <Recovery />
      {take ? (
        <>
          <ul aria-label="Takes" className="max-h-[40%] shrink-0 overflow-y-auto border-rule border-b">
            {takes.map((t) => (
              <li key={t.id}>
                <button
                  type="button"
                  aria-current={t.id === take.id}
                  onClick={() => setView({ takeId: t.id, sliceIds: new Set() })}
                  className={cx(
                    "grid h-9 w-full grid-cols-[1fr_110px_90px_130px] items-center gap-3 border-transparent border-l-4 px-3 text-left",
                    t.id === take.id ? "!border-cobalt bg-tint-cobalt" : "hover:bg-well",
                  )}
                >
                  <b className="truncate font-semibold">{t.name}</b>
                  <span className="text-ink-soft">{ORIGINS[t.origin]}</span>
                  <span className="num text-right">{formatNumber("seconds", t.frames / t.rate)}</span>
                  <span className="num text-right text-ink-soft">
                    {t.slices.length > 0 ? `${t.slices.filter((s) => s.keep).length} slices` : "not cut yet"}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          <TakeWave key={take.sha} take={take} />
        </>
      ) : (
        <Empty title="No recording yet">
          <p>Record with the strip above: the bench mic needs no device. Or drop WAV files anywhere on this window.</p>
        </Empty>
      )}
    </Station>
  );
}

function TakeWave({ take }: { take: Take }) {
  const wave = useWave(take.sha);
  const [span, setSpan] = useState<Span>({ from: 0, to: take.frames });
  if (wave.error)
    return (
      <p className="m-6 text-vermilion">
        The sound of {take.name} can't be shown: {wave.error.message}.
      </p>
    );
  if (!wave.data) return <p className="m-6 text-ink-soft">Reading {take.name} …</p>;
  return (
    <WaveView
      sha={take.sha}
      wave={wave.data}
      rate={take.rate}
      span={span}
      onSpan={setSpan}
      label={`Waveform of ${take.name}`}
      onPick={(frame) => void audition(take.sha, frame, frame + take.rate * 3)}
    />
  );
}

function TakeDetails({ take }: { take: Take }) {
  const rename = (name: string) => {
    if (name.trim() === "") return false;
    session.commit(changeTake(take.id, "Rename take", { name: name.trim() }));
    return true;
  };
  return (
    <>
      <h2 className="mb-2 truncate font-display font-semibold text-l">{take.name}</h2>
      <Section title="Recording">
        <Row label="Name">
          <Well label="Name of the take" text={take.name} onType={rename} width={138} />
        </Row>
        <Row label="Length">
          <span className="num">{formatNumber("seconds", take.frames / take.rate)}</span>
        </Row>
        <Row label="Rate">
          <span className="num">{formatNumber("hertz", take.rate)}</span>
        </Row>
        <Row label="Channels">
          <span className="num">{take.channels === 1 ? "mono" : "stereo"}</span>
        </Row>
        <Row label="Frames">
          <span className="num">{take.frames.toLocaleString("en")}</span>
        </Row>
        <Row label="Noise floor">
          <span className="num">{take.floor === null ? "not measured" : formatNumber("decibels", take.floor)}</span>
        </Row>
      </Section>
      <Section title="Listen">
        <p className="text-ink-soft">
          Click the waveform to hear three seconds from there. The wheel scrolls, with Ctrl it zooms.
        </p>
      </Section>
      <Button onClick={() => dropTake(take.id, take.name)}>
        <Trash2 size={13} aria-hidden /> Remove take
      </Button>
    </>
  );
}
