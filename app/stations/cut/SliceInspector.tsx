import { changeSlices, mergeIntoOne, removeSlices, type Slice, splitSlice, type Take } from "../../../core/instrument";
import { formatNumber, parseNumber, plural } from "../../../core/params";
import { audition } from "../../state/audio-queries";
import { session } from "../../state/session";
import { useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { Row, Section } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";
import { LevelPart } from "./LevelPart";
import { PitchPart } from "./PitchPart";
import { SortPart } from "./SortPart";
import { moved, nudge, setKeep } from "./slice-edits";
import { TreatmentList } from "./TreatmentList";

interface SliceInspectorProps {
  readonly take: Take;
  /** The frame that was clicked last in the wave; null for none. */
  readonly cursor: number | null;
  readonly onLoop: () => void;
}

/** What one or several selected slices are, with everything that can be typed; without a selection the whole take. */
export function SliceInspector({ take, cursor, onLoop }: SliceInspectorProps) {
  const sliceIds = useView((v) => v.sliceIds);
  const selected = take.slices.filter((s) => sliceIds.has(s.id));
  const [first] = selected;
  if (!first) {
    return (
      <>
        <h2 className="mb-1 truncate font-display font-semibold text-l">{take.name}</h2>
        <p className="mb-3 text-ink-soft text-s">
          Click a slice to hear and change it; Shift takes in all between, Ctrl adds one.
        </p>
        <SortPart take={take} />
        <LevelPart take={take} slices={take.slices.filter((s) => s.keep)} />
        <TreatmentList take={take} slices={[]} cursor={cursor} />
      </>
    );
  }
  const ids = new Set(selected.map((s) => s.id));
  const one = selected.length === 1;
  return (
    <>
      <h2 className="font-display font-semibold text-l">
        {one ? `Slice ${take.slices.indexOf(first) + 1}` : plural(selected.length, "slice")}
      </h2>
      <p className="mb-2 truncate text-ink-soft text-s">
        of {take.name}
        {one && first.doubt && <span className="text-ochre"> · {first.doubt}</span>}
      </p>
      <div className="mb-3 flex flex-wrap gap-1.5">
        <Button
          className="!h-6 px-2"
          keys="Enter"
          hint="Hear it"
          onClick={() => void audition(take.sha, first.start, first.end)}
        >
          Hear
        </Button>
        <Button className="!h-6 px-2" hint="Loops it" keys="Alt+Enter" onClick={onLoop}>
          Loop
        </Button>
        <Button
          className="!h-6 px-2"
          hint="Whether it becomes a sample"
          keys="Delete"
          onClick={() => setKeep(take, ids, !first.keep)}
        >
          {first.keep ? "Exclude" : "Include"}
        </Button>
        <Button
          className="!h-6 px-2"
          disabled={!one || cursor === null || cursor <= first.start || cursor >= first.end}
          hint="Parts it where the wave was clicked last"
          keys="Alt+S"
          onClick={() => cursor !== null && session.commit(splitSlice(take.id, first.id, cursor))}
        >
          Split
        </Button>
        <Button
          className="!h-6 px-2"
          disabled={one}
          hint="Makes one slice of all that are selected"
          keys="Alt+J"
          onClick={() => session.commit(mergeIntoOne(take.id, ids))}
        >
          Join
        </Button>
        <Button
          className="!h-6 px-2"
          hint="Takes it out of the list; a new search may find it again"
          onClick={() => session.commit(removeSlices(take.id, ids))}
        >
          Remove
        </Button>
      </div>
      <PitchPart take={take} selected={selected} />
      <EdgePart take={take} selected={selected} />
      {one && <MeasuredPart slice={first} />}
      <TreatmentList take={take} slices={selected} cursor={cursor} />
      <LevelPart take={take} slices={selected} />
    </>
  );
}

function EdgePart({ take, selected }: { take: Take; selected: readonly Slice[] }) {
  const [first] = selected as [Slice];
  const ids = new Set(selected.map((s) => s.id));
  const one = selected.length === 1;
  const edge = (which: "start" | "end", label: string) => (
    <Row
      label={one ? label : `All ${which}s`}
      help={
        one
          ? `Where the sample ${which === "start" ? "begins" : "ends"}; its neighbours stay`
          : "Type how far they move, such as −2 ms; the arrow keys move them by 1 ms"
      }
    >
      <Well
        label={one ? label : `Move all ${which}s by`}
        text={one ? formatTime(first[which] / take.rate) : "by …"}
        width={104}
        align="right"
        onType={(text) => {
          const seconds = parseNumber("seconds", text);
          if (seconds === null) return false;
          if (!one) nudge(take, ids, which, seconds);
          else
            session.commit(
              changeSlices(take.id, ids, `Move slice ${which}`, (s) =>
                moved(s, which, Math.round(seconds * take.rate)),
              ),
            );
          return true;
        }}
        onStep={(steps) => nudge(take, ids, which, steps / 1000)}
      />
    </Row>
  );
  return (
    <Section title="Position">
      {edge("start", "Start")}
      {edge("end", "End")}
      {one && (
        <Row label="Length">
          <span className="num text-[12px]">{formatTime((first.end - first.start) / take.rate)}</span>
        </Row>
      )}
    </Section>
  );
}

function MeasuredPart({ slice }: { slice: Slice }) {
  return (
    <Section title="As recorded">
      <Row label="Peak">
        <span className="num text-[12px]">{formatNumber("decibels", slice.peak)}</span>
      </Row>
      <Row label="Loudness">
        <span className="num text-[12px]">{slice.loudness.toFixed(1)} LUFS</span>
      </Row>
    </Section>
  );
}

const formatTime = (seconds: number): string =>
  seconds < 1 ? `${(seconds * 1000).toFixed(1)} ms` : `${seconds.toFixed(4)} s`;
