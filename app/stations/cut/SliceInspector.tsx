import { nameOfNote, parseNote } from "../../../core/audio";
import { noteOfSlice, pitchOfSlice } from "../../../core/formats";
import { changeSlices, type Slice, type Take } from "../../../core/instrument";
import { formatNumber, parseNumber } from "../../../core/params";
import { audition } from "../../state/audio-queries";
import { session } from "../../state/session";
import { useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { Row, Section } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";

/** What one or several selected slices are, with everything that can be typed. */
export function SliceInspector({ take }: { take: Take }) {
  const sliceIds = useView((v) => v.sliceIds);
  const selected = take.slices.filter((s) => sliceIds.has(s.id));
  const [first] = selected;
  if (!first) {
    return (
      <>
        <h2 className="mb-2 font-display font-semibold text-l">{take.name}</h2>
        <p className="text-ink-soft">
          Click a slice to hear it and to change its edges and note; Shift adds to the selection. Delete leaves a slice
          out or takes it back, double click in the list zooms to it.
        </p>
      </>
    );
  }
  const change = (name: string, fn: (s: Slice) => Slice, gesture: string | null = null) =>
    session.commit(changeSlices(take.id, sliceIds, name, fn), gesture);
  const same = (read: (s: Slice) => unknown) => selected.every((s) => read(s) === read(first));
  const note = noteOfSlice(first);
  const edge = (which: "start" | "end", label: string) => (
    <Row
      label={label}
      help={
        which === "start"
          ? "Where the sample begins; its neighbours stay"
          : "Where the sample ends; its neighbours stay"
      }
    >
      <Well
        label={label}
        text={formatTime(first[which] / take.rate)}
        mixed={selected.length > 1}
        width={100}
        align="right"
        onType={(text) => {
          const seconds = parseNumber("seconds", text);
          if (seconds === null || selected.length > 1) return false;
          change(`Move slice ${which}`, (s) => ({ ...s, edited: true, [which]: Math.round(seconds * take.rate) }));
          return true;
        }}
        onStep={(steps) =>
          change(
            `Move slice ${which}`,
            (s) => ({ ...s, edited: true, [which]: s[which] + steps * Math.round(take.rate / 1000) }),
            "step",
          )
        }
      />
    </Row>
  );
  return (
    <>
      <h2 className="font-display font-semibold text-l">
        {selected.length === 1 ? `Slice ${take.slices.indexOf(first) + 1}` : `${selected.length} slices`}
      </h2>
      <p className="mb-3 text-ink-soft text-s">of {take.name}</p>
      <Section title="Which is it?">
        <Row label="Note" help="The root note. Type another to correct it; empty takes the measured one again">
          <Well
            label="Note of the slice"
            text={note === null ? "none" : nameOfNote(note)}
            mixed={!same(noteOfSlice)}
            width={48}
            onType={(text) => {
              const parsed = text.trim() === "" ? null : parseNote(text);
              if (parsed === null && text.trim() !== "") return false;
              change("Set note", (s) => ({ ...s, note: parsed }));
              return true;
            }}
            onStep={(steps) =>
              change(
                "Set note",
                (s) => ({ ...s, note: Math.min(127, Math.max(0, (noteOfSlice(s) ?? 60) + steps)) }),
                "step",
              )
            }
          />
          <Button
            className="px-1.5"
            hint="An octave down"
            onClick={() => change("Octave down", (s) => ({ ...s, note: Math.max(0, (noteOfSlice(s) ?? 60) - 12) }))}
          >
            −12
          </Button>
          <Button
            className="px-1.5"
            hint="An octave up"
            onClick={() => change("Octave up", (s) => ({ ...s, note: Math.min(127, (noteOfSlice(s) ?? 60) + 12) }))}
          >
            +12
          </Button>
        </Row>
        <Row
          label="Cents"
          help="How far the sound is off that note. Type another to correct it; empty takes the measured one again"
        >
          <Well
            label="Cents of the slice"
            text={centsText(first)}
            mixed={!same(centsText)}
            width={74}
            onType={(text) => {
              const parsed = text.trim() === "" ? null : parseNumber("cents", text);
              if (parsed === null && text.trim() !== "") return false;
              change("Set cents", (s) => ({ ...s, cents: parsed }));
              return true;
            }}
            onStep={(steps) => change("Set cents", (s) => ({ ...s, cents: centsOf(s) + steps }), "step")}
          />
        </Row>
        <Row label="Measured">
          <span className="num text-[12px]">
            {first.pitch === null
              ? "no pitch"
              : `${nameOfNote(Math.round(first.pitch))} ${((first.pitch - Math.round(first.pitch)) * 100).toFixed(1)} ct`}
          </span>
        </Row>
        <Row label="Sureness">
          <span className="num text-[12px]">{Math.round(first.confidence * 100)} %</span>
        </Row>
      </Section>
      <Section title="Where is it?">
        {edge("start", "Start")}
        {edge("end", "End")}
        <Row label="Length">
          <span className="num text-[12px]">{formatTime((first.end - first.start) / take.rate)}</span>
        </Row>
      </Section>
      <Section title="Level">
        <Row label="Peak">
          <span className="num text-[12px]">{formatNumber("decibels", first.peak)}</span>
        </Row>
        <Row label="Loudness">
          <span className="num text-[12px]">{first.loudness.toFixed(1)} LUFS</span>
        </Row>
      </Section>
      <div className="flex gap-2">
        <Button onClick={() => void audition(take.sha, first.start, first.end)}>Hear it</Button>
        <Button onClick={() => change(first.keep ? "Leave out" : "Keep", (s) => ({ ...s, keep: !first.keep }))}>
          {first.keep ? "Leave out" : "Keep"}
        </Button>
      </div>
    </>
  );
}

/** How far a slice is off its note, in cents; 0 where nothing is known. */
const centsOf = (slice: Slice): number => ((pitchOfSlice(slice) ?? 0) - (noteOfSlice(slice) ?? 0)) * 100;
const centsText = (slice: Slice): string =>
  pitchOfSlice(slice) === null ? "none" : formatNumber("cents", centsOf(slice));
const formatTime = (seconds: number): string =>
  seconds < 1 ? `${(seconds * 1000).toFixed(1)} ms` : `${seconds.toFixed(4)} s`;
