import { useState } from "react";
import { useNavigate } from "react-router";
import { useStore } from "zustand";
import { type Shot, setShots } from "../../../core/instrument";
import { nameOfStrength } from "../../../core/mapping";
import { recorder } from "../../audio/recorder";
import type { Cue } from "../../audio/shot-session";
import { handsFree, handsFreeOf } from "../../state/hands-free";
import { shotSession, startSession } from "../../state/recording";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { cx } from "../../widgets/class-names";
import { HandsFreeRow } from "./HandsFreeRow";
import { ShotBuilder } from "./ShotBuilder";
import { ShotStage } from "./ShotStage";

const CUES: readonly { id: Cue; label: string }[] = [
  { id: "none", label: "No cue" },
  { id: "count", label: "Count-in" },
  { id: "tone", label: "Tone of the note" },
];

const STATES = { open: "to do", done: "done", skipped: "skipped" } as const;

/** The shot list: built by range or by hand, and walked hands-free while it is recorded. */
export function ShotPanel() {
  const shots = useInstrument((i) => i.shots);
  const running = useStore(shotSession.store, (s) => s.running);
  const recording = useStore(recorder.store, (s) => s.recording !== null || s.busy);
  const navigate = useNavigate();
  const [cue, setCue] = useState<Cue>("none");
  if (running) return <ShotStage />;
  const open = shots.filter((s) => s.state === "open").length;
  const again = shots.map((s) => ({ ...s, state: "open" as const }));
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <ShotBuilder />
      {shots.length === 0 ? (
        <p className="m-auto max-w-[440px] p-6 text-center text-ink-soft">
          A shot list says which sounds the instrument needs: notes, velocity layers, repeats. Recording walks it
          hands-free: it waits for a sound, hears it out, checks it, and announces the next.
        </p>
      ) : (
        <>
          <div className="flex h-10 shrink-0 items-center gap-2.5 border-rule border-b px-3.5">
            <Button
              look="primary"
              disabled={open === 0 || recording}
              hint="Records hands-free, entry by entry, with the input selected above"
              onClick={() =>
                void startSession(shots, cue, handsFreeOf(handsFree.getState(), session.instrument?.id ?? ""))
              }
            >
              Record the list
            </Button>
            <Choice
              label="Before each entry"
              value={cue}
              options={CUES}
              onChange={(id) => setCue(id as Cue)}
              className="w-[140px]"
            />
            <span className="num text-[12px] text-ink-soft">
              {shots.length - open} of {shots.length} done
            </span>
            <span className="flex-1" />
            <Button
              disabled={open === shots.length}
              onClick={() => session.commit(setShots("Reset the shot list", again))}
            >
              Reset list
            </Button>
            <Button onClick={() => session.commit(setShots("Clear the shot list", []))}>Clear</Button>
            {open < shots.length && <Button onClick={() => void navigate("/cut")}>See the slices</Button>}
          </div>
          <HandsFreeRow />
          <ShotList shots={shots} />
        </>
      )}
    </div>
  );
}

function ShotList({ shots }: { shots: readonly Shot[] }) {
  const change = (shot: Shot, state: Shot["state"]) =>
    session.commit(
      setShots(
        `Mark ${shot.name}`,
        shots.map((s) => (s.id === shot.id ? { ...s, state } : s)),
      ),
    );
  return (
    <ol
      aria-label="Shot list"
      className="grid min-h-0 flex-1 auto-rows-[28px] grid-cols-[repeat(auto-fill,minmax(250px,1fr))] content-start overflow-y-auto px-3 py-2"
    >
      {shots.map((shot, i) => (
        <li key={shot.id} className="flex items-center gap-2 border-rule border-b px-1">
          <span className="num w-7 text-right text-ink-faint text-s">{i + 1}</span>
          <b className="min-w-12 max-w-[55%] truncate font-semibold">{shot.name}</b>
          <span className="flex-1 truncate text-ink-soft">
            {[nameOfStrength(shot.strength, shot.strengths), `repeat ${shot.repeat}`].filter(Boolean).join(" · ")}
          </span>
          <button
            type="button"
            onClick={() => change(shot, shot.state === "open" ? "skipped" : "open")}
            title={shot.state === "open" ? "Skip it" : "Reset"}
            className={cx(
              "rounded-[2px] px-1.5 text-s",
              shot.state === "done"
                ? "bg-tint-leaf text-ink"
                : shot.state === "skipped"
                  ? "bg-well text-ink-faint"
                  : "text-ink-soft hover:bg-well",
            )}
          >
            {STATES[shot.state]}
          </button>
        </li>
      ))}
    </ol>
  );
}
