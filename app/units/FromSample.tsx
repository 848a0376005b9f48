import { hertzOf } from "../../core/audio";
import { listNotes, type Sample, setTable, type Unit } from "../../core/instrument";
import { plural } from "../../core/params";
import { unitSpec } from "../../core/units";
import { tell } from "../state/notices";
import { session } from "../state/session";
import { useInstrument } from "../state/use-session";
import { withProgress } from "../state/with-progress";
import { Choice } from "../widgets/Choice";
import { Cancelled } from "../workers/audio-worker";
import { rowsOfModes } from "./unit-rows";

/** Takes the rows of a unit's table from what rings in a sample of the instrument. */
export function FromSample({ address, unit }: { address: string; unit: Unit }) {
  const samples = useInstrument(listNotes);
  const spec = unitSpec(unit.kind).table;
  if (!spec || samples.length === 0) return null;
  return (
    <Choice
      label={`${spec.label} from a sample`}
      value=""
      placeholder="found in …"
      options={samples.map((s) => ({ id: s.sha, label: s.name }))}
      onChange={(sha) => {
        const sample = samples.find((s) => s.sha === sha);
        if (sample) void take(sample);
      }}
      className="w-[104px]"
    />
  );

  async function take(sample: Sample): Promise<void> {
    if (!spec) return;
    try {
      const modes = await withProgress(`Listening to ${sample.name}`, (worker) => worker.modes(sample.sha, spec.most));
      if (modes.length === 0) {
        tell("doubt", `Nothing rings in ${sample.name}: it is too short, or noise alone.`);
        return;
      }
      // Played at the sample's own key it is to sound as it did; without a measured pitch the loudest is the key.
      const loudest = modes.reduce((a, b) => (b.level > a.level ? b : a));
      const hertz = sample.pitch === null ? loudest.hertz : hertzOf(sample.pitch);
      const rows = rowsOfModes(unit.kind, modes, hertz);
      session.commit(setTable(address, rows, `Take ${plural(rows.length, spec.row)} from ${sample.name}`));
      tell("good", `${plural(rows.length, spec.row)} found in ${sample.name}.`, {
        label: "Undo",
        run: session.undoer(),
      });
    } catch (error) {
      if (!(error instanceof Cancelled))
        tell(
          "error",
          `${sample.name} couldn’t be looked at: ${error instanceof Error ? error.message : String(error)}.`,
        );
    }
  }
}
