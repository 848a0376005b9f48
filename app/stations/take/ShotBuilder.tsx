import { useState } from "react";
import { nameOfNote, parseNote } from "../../../core/audio";
import { type Shot, setShots } from "../../../core/instrument";
import { makeShots, noteRange, readPlan } from "../../../core/mapping";
import { plural } from "../../../core/params";
import { session } from "../../state/session";
import { Button, Hint } from "../../widgets/Button";
import { cx } from "../../widgets/class-names";
import { Well } from "../../widgets/Well";

/** Builds the list: a range of notes with a step, or typed by hand. */
export function ShotBuilder() {
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
        {count("strengths", "Velocity layers", 9)}
        <span>velocity layers,</span>
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
            ? 'such as C3 D#3..A4/3 "brake lever" chain x3 v2, then Enter'
            : `“${wrong}” is neither a note nor a name`}
        </span>
      </div>
    </section>
  );
}
