import { useQuery } from "@tanstack/react-query";
import { SURE } from "../../../core/analysis";
import { nameOfNote, parseNote } from "../../../core/audio";
import { centsOfSlice, noteOfSlice } from "../../../core/formats";
import { changeSlices, type Slice, type Take } from "../../../core/instrument";
import { formatNumber, parseNumber } from "../../../core/params";
import { session } from "../../state/session";
import { Button } from "../../widgets/Button";
import { Row, Section } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";
import { audioWorker } from "../../workers/audio-worker";
import { StrobePlot } from "./StrobePlot";
import { transpose } from "./slice-edits";

const STEPS = [
  [-12, "−12", "An octave down"],
  [-1, "−1", "A semitone down"],
  [1, "+1", "A semitone up"],
  [12, "+12", "An octave up"],
] as const;

const centsText = (s: Slice): string => {
  const cents = centsOfSlice(s);
  return cents === null ? "none" : formatNumber("cents", cents);
};

/** Which sound the selected slices are: note, cents, strength, repeat; measured, corrected, and compared with a tone. */
export function PitchPart({ take, selected }: { take: Take; selected: readonly Slice[] }) {
  const [first] = selected as [Slice];
  const ids = new Set(selected.map((s) => s.id));
  const same = (read: (s: Slice) => unknown) => selected.every((s) => read(s) === read(first));
  const change = (name: string, fn: (s: Slice) => Slice, gesture: string | null = null) =>
    session.commit(changeSlices(take.id, ids, name, fn), gesture);
  const note = noteOfSlice(first);
  const count = (key: "strength" | "repeat", label: string, help: string) => (
    <Row label={label} help={help}>
      <Well
        label={`${label} of the slice`}
        text={first[key] === null ? "none" : String(first[key])}
        mixed={!same((s) => s[key])}
        width={54}
        align="right"
        onType={(text) => {
          const n = text.trim() === "" || text === "none" ? null : Number(text);
          if (n !== null && !(Number.isInteger(n) && n >= 1 && n <= 127)) return false;
          change(`Set ${key}`, (s) => ({ ...s, [key]: n }));
          return true;
        }}
        onStep={(steps) =>
          change(`Set ${key}`, (s) => ({ ...s, [key]: Math.min(127, Math.max(1, (s[key] ?? 1) + steps)) }), "step")
        }
      />
    </Row>
  );
  return (
    <Section title="Pitch and layer">
      <Row label="Note" help="The root note. Type another to correct it; empty takes the measured one again">
        <Well
          label="Note of the slice"
          text={note === null ? "none" : nameOfNote(note)}
          mixed={!same(noteOfSlice)}
          width={54}
          onType={(text) => {
            const parsed = text.trim() === "" ? null : parseNote(text);
            if (parsed === null && text.trim() !== "") return false;
            change("Set note", (s) => ({ ...s, note: parsed }));
            return true;
          }}
          onStep={(steps) => transpose(take, ids, steps)}
        />
      </Row>
      <Row label="Move by" help="Corrects the notes of all selected slices">
        <span className="flex gap-1">
          {STEPS.map(([by, text, hint]) => (
            <Button
              key={by}
              className="num !h-6 !px-0 w-[33px] text-[12px]"
              hint={hint}
              onClick={() => transpose(take, ids, by)}
            >
              {text}
            </Button>
          ))}
        </span>
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
          onStep={(steps) => change("Set cents", (s) => ({ ...s, cents: (centsOfSlice(s) ?? 0) + steps }), "step")}
        />
      </Row>
      {count("strength", "Velocity layer", "Velocity layer, 1 the softest")}
      {count("repeat", "Repeat", "Number of the repeat of its note and velocity layer")}
      {selected.length === 1 && (
        <>
          <Row label="Measured" help="What the analysis found, with its confidence">
            <span className="num truncate text-[12px]">
              {first.pitch === null ? "no pitch" : pitchText(first.pitch)} · {Math.round(first.confidence * 100)} %
            </span>
          </Row>
          <OtherNotes take={take} slice={first} />
          {note !== null && <StrobePlot take={take} slice={first} />}
        </>
      )}
    </Section>
  );
}

const pitchText = (pitch: number): string =>
  `${nameOfNote(Math.round(pitch))} ${formatNumber("cents", (pitch - Math.round(pitch)) * 100)}`;

/** Other notes that a slice may be: an octave off, and by the partials of a bell. */
function OtherNotes({ take, slice }: { take: Take; slice: Slice }) {
  const { data } = useQuery({
    queryKey: ["strike", take.sha, slice.onset, slice.end],
    queryFn: () => audioWorker().strikeNotes(take.sha, slice),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30000,
    enabled: slice.confidence < 0.98,
  });
  if (slice.confidence >= SURE && (data ?? []).every((d) => d.score < 0.45)) return null;
  const others = (data ?? []).filter((d) => d.note >= 0 && d.note <= 127).slice(0, 3);
  if (others.length === 0) return null;
  return (
    <Row label="As a bell" help="Strike notes by the partials that a bell is expected to have, the likeliest first">
      {others.map((d) => (
        <Button
          key={d.note}
          className="num !h-6 px-1.5 text-[12px]"
          hint={`${pitchText(d.note)}; explains ${Math.round(d.score * 100)} % of the sound`}
          onClick={() =>
            session.commit(
              changeSlices(take.id, new Set([slice.id]), "Take another strike note", (s) => ({
                ...s,
                note: Math.round(d.note),
                cents: (d.note - Math.round(d.note)) * 100,
              })),
            )
          }
        >
          {nameOfNote(Math.round(d.note))}
        </Button>
      ))}
    </Row>
  );
}
