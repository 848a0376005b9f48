import { useState } from "react";
import { pitchOfSlice } from "../../../core/formats";
import type { Take } from "../../../core/instrument";
import { readPlan, sortByMeasure, sortByNames, sortByPlan, sortByShots } from "../../../core/mapping";
import { formatNumber, plural } from "../../../core/params";
import { useInstrument } from "../../state/use-session";
import { Button } from "../../widgets/Button";
import { Row, Section } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";
import { applySorting, correctDetune, detuneOf } from "./slice-edits";

/** Sorting of the kept slices into notes, strengths and repeats, and their common detuning. */
export function SortPart({ take }: { take: Take }) {
  const shots = useInstrument((i) => i.shots);
  const [list, setList] = useState("");
  const [wrong, setWrong] = useState<string | null>(null);
  const kept = take.slices.filter((s) => s.keep);
  const detune = detuneOf(take);
  const byList = (text: string): boolean => {
    setList(text);
    const read = readPlan(text);
    setWrong(read.ok ? null : read.word);
    if (!read.ok) return false;
    applySorting(take, "Sort by the typed list", sortByPlan(take.slices, read.plan));
    return true;
  };
  const none = kept.length === 0;
  return (
    <>
      <Section title="Sort into notes, velocity layers, repeats">
        <div className="flex flex-wrap gap-1.5">
          <Button
            disabled={none}
            hint="By measured pitch, and by the gaps between levels"
            onClick={() => applySorting(take, "Sort by pitch and level", sortByMeasure(take.slices, pitchOfSlice))}
          >
            By pitch and level
          </Button>
          <Button
            disabled={none || shots.length === 0}
            hint={
              shots.length === 0
                ? "There is no shot list; Take builds one"
                : `In order, by the list of ${plural(shots.length, "entry", "entries")}`
            }
            onClick={() => applySorting(take, "Sort by the shot list", sortByShots(take.slices, shots))}
          >
            By shot list
          </Button>
          <Button
            disabled={none || take.markers.length === 0}
            hint="By the names of the file's markers: note, v2 for a velocity layer, r3 for a repeat"
            onClick={() =>
              applySorting(take, "Sort by marker names", sortByNames(take.slices, take.markers, take.rate))
            }
          >
            By names
          </Button>
        </div>
        <label className="mt-2 block text-ink-soft text-s" htmlFor="typed-list">
          In order, by a list: C3 D#3 F3 x3, or C3..C5/3 v2 x4
        </label>
        <div className="mt-0.5">
          <Well label="List of notes in order" text={list} width={234} onType={byList} disabled={none} />
        </div>
        {wrong !== null && <p className="mt-1 text-s text-vermilion">“{wrong}” is neither a note nor a name.</p>}
      </Section>
      <Section title="Common tuning">
        <Row label="Together" help="How far all measured pitches are off equal temperament together">
          <span className="num flex-1 text-[12px]">{none ? "–" : formatNumber("cents", detune)}</span>
          <Button
            className="!h-6 px-2"
            disabled={none || Math.abs(detune) < 0.5}
            hint="Takes it into account where notes are told apart; each sound is then tuned by its own cents"
            onClick={() => correctDetune(take)}
          >
            Correct
          </Button>
        </Row>
      </Section>
    </>
  );
}
