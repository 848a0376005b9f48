import { FolderOpen } from "lucide-react";
import { useMemo, useRef } from "react";
import { useNavigate } from "react-router";
import { useStore } from "zustand";
import type { Take } from "../../../core/instrument";
import { formatNumber, plural } from "../../../core/params";
import { Empty, Station } from "../../shell/Station";
import { useCommands } from "../../state/commands";
import { openFiles } from "../../state/files";
import { shotSession } from "../../state/recording";
import { useInstrument } from "../../state/use-session";
import { setView, useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { WithMenu } from "../../widgets/CommandMenu";
import { cx } from "../../widgets/class-names";
import { Split } from "../../widgets/Split";
import { TabPanel, TabRow, Tabs } from "../../widgets/Tabs";
import { RecordStrip } from "./RecordStrip";
import { Recovery } from "./Recovery";
import { RoomPanel } from "./RoomPanel";
import { ShotPanel } from "./ShotPanel";
import { ShotQueue } from "./ShotQueue";
import { ORIGINS, TakeDetails } from "./TakeDetails";
import { TakeWave } from "./TakeWave";
import { takeCommands } from "./take-commands";

const PANELS = [
  { id: "takes", label: "Takes" },
  { id: "shots", label: "Shot list" },
  { id: "room", label: "Room" },
] as const;

/** Take: record, to a list or freely, open and look over the recordings. */
export function TakeStation() {
  const takes = useInstrument((i) => i.takes);
  const shots = useInstrument((i) => i.shots);
  const takeId = useView((v) => v.takeId);
  const panel = useView((v) => v.takePanel);
  const running = useStore(shotSession.store, (s) => s.running);
  const navigate = useNavigate();
  const picker = useRef<HTMLInputElement>(null);
  const take = takes.find((t) => t.id === takeId) ?? takes[0] ?? null;
  const seconds = takes.reduce((sum, t) => sum + t.frames / t.rate, 0);
  const answered = shots.filter((s) => s.state !== "open").length;
  useCommands(
    "Take",
    useMemo(
      () => [
        { id: "open", label: "Import recordings or a package", chords: ["Mod+O"], run: () => picker.current?.click() },
      ],
      [],
    ),
  );
  const tabs = PANELS.map((p) =>
    p.id === "shots" && shots.length > 0 ? { ...p, count: `${answered}/${shots.length}` } : p,
  );
  return (
    <Tabs shown={running ? "shots" : panel} onShow={(takePanel) => setView({ takePanel })}>
      <Station
        title="Recordings"
        facts={takes.length > 0 ? `${plural(takes.length, "take")} · ${seconds.toFixed(0)} s` : null}
        actions={
          <>
            <TabRow label="Take shows" tabs={tabs} disabled={running} className="mr-2" />
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
              hint="Opens recordings (WAV, AIFF, FLAC, MP3 and what else the browser knows) or a package; files and folders can also be dropped anywhere"
              onClick={() => picker.current?.click()}
            >
              <FolderOpen size={14} aria-hidden /> Import files
            </Button>
            {take && !running && (
              <Button look="primary" hint="Find the sounds in this take" onClick={() => void navigate("/cut")}>
                Cut this take
              </Button>
            )}
          </>
        }
        inspector={running ? <ShotQueue /> : take && <TakeDetails key={take.id} take={take} />}
      >
        <RecordStrip />
        <Recovery />
        <TabPanel id="shots">
          <ShotPanel />
        </TabPanel>
        <TabPanel id="room">
          <RoomPanel take={take} />
        </TabPanel>
        <TabPanel id="takes">{take ? <Takes take={take} takes={takes} /> : <NoTake />}</TabPanel>
      </Station>
    </Tabs>
  );
}

const NoTake = () => (
  <Empty title="No recording yet">
    <p>
      Record with the strip above: the bench mic needs no device. Or drop recordings, or whole folders of them, anywhere
      on this window.
    </p>
  </Empty>
);

function Takes({ take, takes }: { take: Take; takes: readonly Take[] }) {
  const navigate = useNavigate();
  return (
    <Split
      id="take"
      label="Height of the wave"
      as="rows"
      size="68%"
      least={[74, 120]}
      first={
        <ul aria-label="Takes" className="min-h-0 flex-1 overflow-y-auto">
          {takes.map((t) => (
            <li key={t.id}>
              <WithMenu commands={takeCommands(t, (to) => void navigate(to))}>
                <button
                  type="button"
                  aria-current={t.id === take.id}
                  onClick={() => setView({ takeId: t.id, sliceIds: new Set() })}
                  className={cx(
                    "grid h-9 w-full grid-cols-[1fr_110px_64px_90px_130px] items-center gap-3 border-transparent border-l-4 px-3 text-left",
                    t.id === take.id ? "!border-cobalt bg-tint-cobalt" : "hover:bg-well",
                  )}
                >
                  <b className="truncate font-semibold">{t.name}</b>
                  <span className="text-ink-soft">{ORIGINS[t.origin]}</span>
                  <span className="text-right text-vermilion">
                    {t.gaps.length > 0 ? plural(t.gaps.length, "gap") : t.clips.length > 0 ? "clipped" : ""}
                  </span>
                  <span className="num text-right">{formatNumber("seconds", t.frames / t.rate)}</span>
                  <span className="num text-right text-ink-soft">
                    {t.slices.length > 0 ? plural(t.slices.filter((s) => s.keep).length, "slice") : "not cut yet"}
                  </span>
                </button>
              </WithMenu>
            </li>
          ))}
        </ul>
      }
      second={<TakeWave key={take.sha} take={take} />}
    />
  );
}
