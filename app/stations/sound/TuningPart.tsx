import { Upload } from "lucide-react";
import { useRef } from "react";
import { FormatError, readMapping, readScale, tuneKeys } from "../../../core/formats";
import { setTuning } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { reasonOf } from "../../basis/reason-of";
import { tell } from "../../state/notices";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { Button } from "../../widgets/Button";
import { Row, Section } from "../../widgets/ParamControl";

/** Reads a Scala scale, with a keyboard mapping if one is chosen beside it, into the instrument. */
async function load(files: readonly File[]): Promise<void> {
  const scaleFile = files.find((f) => /\.scl$/i.test(f.name));
  const mapFile = files.find((f) => /\.kbm$/i.test(f.name));
  if (!scaleFile) {
    tell("error", "Select a Scala scale (.scl), and its keyboard mapping (.kbm) together with it if there is one.");
    return;
  }
  let reading = scaleFile.name;
  try {
    const scale = readScale(await scaleFile.text());
    reading = mapFile?.name ?? reading;
    const keys = mapFile ? tuneKeys(scale, readMapping(await mapFile.text())) : tuneKeys(scale);
    session.commit(setTuning({ name: scaleFile.name.replace(/\.scl$/i, ""), keys }));
    tell(
      "good",
      `Tuned to ${scaleFile.name}: ${plural(scale.cents.length, "note")}${scale.description ? ` (${scale.description})` : ""}.`,
    );
  } catch (error) {
    if (!(error instanceof FormatError)) throw error;
    tell("error", `${reading} can't be read as a tuning: ${reasonOf(error)}. Nothing was changed.`);
  }
}

/** The tuning: equal temperament, or a Scala file. */
export function TuningPart() {
  const tuning = useInstrument((i) => i.tuning);
  const input = useRef<HTMLInputElement>(null);
  return (
    <Section title="Tuning">
      <Row label="Scale" help="How the keys are tuned; A4 above moves them all">
        <span className="truncate" title={tuning?.name}>
          {tuning ? tuning.name : "Equal temperament"}
        </span>
      </Row>
      <div className="flex gap-2">
        <Button
          onClick={() => input.current?.click()}
          hint="A Scala scale (.scl), with its keyboard mapping (.kbm) if you select both"
        >
          <Upload size={13} aria-hidden /> Scala file
        </Button>
        {tuning && <Button onClick={() => session.commit(setTuning(null))}>Equal temperament</Button>}
      </div>
      <input
        ref={input}
        type="file"
        accept=".scl,.kbm"
        multiple
        className="hidden"
        aria-label="Scala files"
        onChange={(event) => {
          void load([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
    </Section>
  );
}
