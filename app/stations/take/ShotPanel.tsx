import { useState } from "react";
import { useNavigate } from "react-router";
import { useStore } from "zustand";
import { nameOfNote, parseNote } from "../../../core/audio";
import { type Shot, setShots } from "../../../core/instrument";
import { makeShots, nameOfStrength, noteRange, readPlan } from "../../../core/mapping";
import type { Cue } from "../../audio/shot-session";
import { shotSession, startSession } from "../../state/recording";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { Button, Hint } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { cx } from "../../widgets/class-names";
import { plural } from "../../widgets/plural";
import { Well } from "../../widgets/Well";
import { ShotStage } from "./ShotStage";

const CUES: readonly { id: Cue; label: string }[] = [
  { id: "none", label: "No cue" },
  { id: "count", label: "Count-in" },
  { id: "tone", label: "Tone of the note" },
];

const STATES = { open: "to do", done: "done", skipped: "skipped" } as const;

/** The shot list: built by range or by hand, and walked hands-free while it is recorded. */
export function ShotPanel() {
  const { shots } = useInstrument();
  const running = useStore(shotSession.store, (s) => s.running);
  const navigate = useNavigate();
  const [cue, setCue] = useState<Cue>("none");
  if (running) return <ShotStage />;
  const open = shots.filter((s) => s.state === "open").length;
  const again = shots.map((s) => ({ ...s, state: "open" as const }));
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <Builder />
      {shots.length === 0 ? (
        <p className="m-auto max-w-[440px] p-6 text-center text-ink-soft">
          A shot list says which sounds the instrument needs: notes, strengths, repeats. Recording walks it hands-free:
          it waits for a sound, hears it out, checks it, and announces the next.
        </p>
      ) : (
        <>
          <div className="flex h-10 shrink-0 items-center gap-2.5 border-rule border-b px-3.5">
            <Button
              look="primary"
              disabled={open === 0}
              hint="Records hands-free, entry by entry, with the input chosen above"
              onClick={() => void startSession(shots, cue)}
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
            <Button disabled={open === shots.length} onClick={() => session.commit(setShots("Shot list anew", again))}>
              All to do again
            </Button>
            <Button onClick={() => session.commit(setShots("Clear the shot list", []))}>Clear</Button>
            {open < shots.length && <Button onClick={() => void navigate("/cut")}>See the slices</Button>}
          </div>
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
          <b className="w-12 truncate font-semibold">{shot.name}</b>
          <span className="flex-1 truncate text-ink-soft">
            {[nameOfStrength(shot.strength, shot.strengths), `repeat ${shot.repeat}`].filter(Boolean).join(" · ")}
          </span>
          <button
            type="button"
            onClick={() => change(shot, shot.state === "open" ? "skipped" : "open")}
            title={shot.state === "open" ? "Skip it" : "To do again"}
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

/** Builds the list: a range of notes with a step, or typed by hand. */
function Builder() {
  const [range, setRange] = useState({ low: 48, high: 72, step: 3, strengths: 2, repeats: 3 });
  const [typed, setTyped] = useState("");
  const [wrong, setWrong] = useState<string | null>(null);
  const notes = noteRange(range.low, range.high, range.step);
  const total = notes.length * range.strengths * range.repeats;
  const note = (key: "low" | "high", label: string) => (
    <Well
      label={label}
      text={nameOfNote(range[key])}
      width={46}
      onType={(text) => {
        const parsed = parseNote(text);
        if (parsed === null) return false;
        setRange({ ...range, [key]: parsed });
        return true;
      }}
      onStep={(n) => setRange({ ...range, [key]: Math.min(127, Math.max(0, range[key] + n)) })}
    />
  );
  const count = (key: "step" | "strengths" | "repeats", label: string, most: number) => (
    <Well
      label={label}
      text={String(range[key])}
      width={36}
      align="right"
      onType={(text) => {
        const n = Number(text);
        if (!(Number.isInteger(n) && n >= 1 && n <= most)) return false;
        setRange({ ...range, [key]: n });
        return true;
      }}
      onStep={(n) => setRange({ ...range, [key]: Math.min(most, Math.max(1, range[key] + n)) })}
    />
  );
  const build = (shots: readonly Shot[]) => session.commit(setShots(`Build a shot list of ${shots.length}`, shots));
  return (
    <section aria-label="Build the list" className="shrink-0 border-rule border-b px-3.5 py-2">
      <div className="flex h-8 items-center gap-2">
        <span>From</span>
        {note("low", "Lowest note")}
        <span>to</span>
        {note("high", "Highest note")}
        <Hint text="Semitones from one note to the next">
          <span>every</span>
        </Hint>
        {count("step", "Step in semitones", 24)}
        <span>st,</span>
        {count("strengths", "Strengths", 9)}
        <span>strengths,</span>
        {count("repeats", "Repeats", 20)}
        <span>repeats</span>
        <span className="flex-1" />
        <Button
          hint="Puts this list in place of the one there is"
          onClick={() => build(makeShots({ notes, strengths: range.strengths, repeats: range.repeats }))}
        >
          Build {plural(total, "entry", "entries")}
        </Button>
      </div>
      <div className="flex h-8 items-center gap-2">
        <span>Or by hand</span>
        <Well
          label="Shot list by hand"
          text={typed}
          width={420}
          onType={(text) => {
            setTyped(text);
            const read = readPlan(text);
            setWrong(read.ok ? null : read.word);
            if (read.ok) build(makeShots(read.plan));
            return read.ok;
          }}
        />
        <span className={cx("truncate text-s", wrong === null ? "text-ink-soft" : "text-vermilion")}>
          {wrong === null
            ? 'such as C3 D#3..A4/3 "brake lever" chain x3 s2, then Enter'
            : `“${wrong}” is neither a note nor a name`}
        </span>
      </div>
    </section>
  );
}
