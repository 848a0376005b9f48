import { hertzOf } from "../../core/audio";
import { USUAL_CYCLES } from "../../core/dsp";
import { type Edit, listNotes, type Sample, setParam, setUnitSample, together, type Unit } from "../../core/instrument";
import { unitSpec } from "../../core/units";
import { session } from "../state/session";
import { useInstrument } from "../state/use-session";
import { Choice } from "../widgets/Choice";
import { Row } from "../widgets/ParamControl";

/** Frames of a cycle by which a sample is best read: one that was made as a row of cycles by their usual length (0), one that was recorded by its pitch. */
const cycleFor = ({ frames, rate, pitch }: Sample): number =>
  pitch === null || USUAL_CYCLES.some((n) => frames % n === 0) ? 0 : rate / hertzOf(pitch);

/** Which sample of the instrument a source takes; its root becomes the sample's pitch, where that is known. */
export function SampleChoice({ address, unit }: { address: string; unit: Unit }) {
  const samples = useInstrument(listNotes);
  return (
    <>
      <Row label="Sample" help={unitSpec(unit.kind).sample ?? ""}>
        <Choice
          label="Sample of the source"
          value={unit.sample ?? ""}
          placeholder={samples.length > 0 ? "none" : "there is none yet"}
          disabled={samples.length === 0}
          options={samples.map((s) => ({ id: s.sha, label: `${s.name} · ${(s.frames / s.rate).toFixed(2)} s` }))}
          onChange={(sha) => {
            const sample = samples.find((s) => s.sha === sha);
            const { instrument } = session;
            if (!sample || !instrument) return;
            const edits: Edit[] = [setUnitSample(address, sample)];
            if (sample.pitch !== null && unit.params.root !== undefined)
              edits.push(setParam(instrument, `${address}/root`, sample.pitch));
            if (unit.kind === "wavetable") edits.push(setParam(instrument, `${address}/cycleLength`, cycleFor(sample)));
            session.commit(together(`Use ${sample.name}`, edits));
          }}
          className="min-w-0 flex-1"
        />
      </Row>
      {samples.length === 0 && (
        <p className="mb-1 text-ink-soft text-s">Make samples at Cut first: one of them is taken to pieces here.</p>
      )}
    </>
  );
}
