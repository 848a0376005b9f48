import { useState } from "react";
import type { Slice, Take } from "../../../core/instrument";
import type { Normalising } from "../../../core/mapping";
import { formatNumber, parseNumber } from "../../../core/params";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Row, Section } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";
import { normalise } from "./treatments";

const TO = [
  { id: "peak", label: "Peak" },
  { id: "loudness", label: "Loudness" },
];
const KEEP = [
  { id: "each", label: "Each to the level" },
  { id: "strength", label: "Each velocity layer together" },
  { id: "all", label: "All by one gain" },
];

/** Normalising of the selected slices, or of all that are kept. */
export function LevelPart({ take, slices }: { take: Take; slices: readonly Slice[] }) {
  const [how, setHow] = useState<Normalising>({ to: "peak", level: -1, keep: "all" });
  return (
    <Section title="Normalise">
      <Row label="What" help="The highest sample, or how loud it is heard (BS.1770)">
        <Choice
          label="Normalise to"
          value={how.to}
          options={TO}
          onChange={(to) => setHow({ ...how, to: to as Normalising["to"], level: to === "peak" ? -1 : -20 })}
          className="w-[84px]"
        />
        <Well
          label="Level to normalise to"
          text={how.to === "peak" ? formatNumber("decibels", how.level) : `${how.level.toFixed(1)} LUFS`}
          width={78}
          align="right"
          onType={(text) => {
            const level = parseNumber("decibels", text.replace(/lufs/i, "").trim());
            if (level === null || level > 0 || level < -60) return false;
            setHow({ ...how, level });
            return true;
          }}
          onStep={(n) => setHow({ ...how, level: Math.min(0, how.level + n) })}
        />
      </Row>
      <Row label="How" help="One gain for all keeps the dynamics between velocity layers and repeats">
        <Choice
          label="Normalise how"
          value={how.keep}
          options={KEEP}
          onChange={(keep) => setHow({ ...how, keep: keep as Normalising["keep"] })}
          className="flex-1"
        />
      </Row>
      <Button
        className="mt-1"
        disabled={slices.length === 0}
        onClick={() => void normalise(take, slices, how)}
        hint="Adds a gain to each; the take stays as it is"
      >
        Normalise {slices.length}
      </Button>
    </Section>
  );
}
