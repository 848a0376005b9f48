import { useEffect } from "react";
import { useStore } from "zustand";
import { listNotes, type Unit } from "../../core/instrument";
import { formatNumber, parseNumber, plural } from "../../core/params";
import { unitSpec } from "../../core/units";
import { rowFinding, rowsShown } from "../state/row-finding";
import { useInstrument } from "../state/use-session";
import { Button } from "../widgets/Button";
import { Choice } from "../widgets/Choice";
import { Scale } from "../widgets/Scale";
import { Toggle } from "../widgets/Toggle";
import { Well } from "../widgets/Well";

const LOWEST = -60;

/** Takes the rows of a unit's table from what rings in a sample: how much of it is seen and heard before it is taken. */
export function FindRows({ address, unit }: { address: string; unit: Unit }) {
  const samples = useInstrument(listNotes);
  const of = useInstrument((i) => i.id);
  const now = useStore(rowFinding.store, (s) => (s.now?.address === address && s.now.instrument === of ? s.now : null));
  const busy = useStore(rowFinding.store, (s) => s.busy);
  const spec = unitSpec(unit.kind).table;
  // Whoever leaves the unit hears the table again.
  useEffect(() => () => rowFinding.leave(address), [address]);
  if (!spec) return null;
  const length = now ? now.sample.frames / now.sample.rate : 0;
  const many = now ? rowsShown(now, unit.kind).length : 0;
  const set = (threshold: number) => rowFinding.setThreshold(threshold);
  const setAt = (at: number | null) => now && void rowFinding.find(address, now.sample, { at });
  return (
    <div className="mb-1 flex min-h-8 flex-wrap items-center gap-x-2 gap-y-1">
      <span className="text-ink-soft text-s">{now ? "found in" : `${spec.label} found in a sample`}</span>
      <Choice
        label={`${spec.label} from a sample`}
        value={now?.sample.sha ?? ""}
        placeholder={samples.length > 0 ? "none yet" : "drop one anywhere"}
        disabled={samples.length === 0 || busy}
        options={samples.map((s) => ({ id: s.sha, label: s.name }))}
        onChange={(sha) => {
          const sample = samples.find((s) => s.sha === sha);
          if (sample) void rowFinding.find(address, sample);
        }}
        className="w-[136px]"
      />
      {now && (
        <>
          {now.as === "modes" ? (
            <Toggle
              label="Harmonics only"
              on={now.harmonic}
              onChange={(harmonic) => void rowFinding.find(address, now.sample, { harmonic })}
            />
          ) : (
            <>
              <Toggle
                label="At one moment"
                on={now.at !== null}
                onChange={(on) => setAt(on ? Math.min(0.2, length / 2) : null)}
              />
              {now.at !== null && (
                <Well
                  label="Moment in the sample"
                  text={formatNumber("seconds", now.at)}
                  width={70}
                  align="right"
                  onType={(text) => {
                    const at = parseNumber("seconds", text);
                    if (at === null) return false;
                    setAt(Math.min(length, Math.max(0, at)));
                    return true;
                  }}
                  onStep={(n) => setAt(Math.min(length, Math.max(0, (now.at ?? 0) + n * 0.01)))}
                />
              )}
            </>
          )}
          <span className="flex items-center gap-2">
            <span className="whitespace-nowrap text-ink-soft text-s">down to</span>
            <span className="w-20">
              <Scale
                label="Softest that is taken"
                travel={1 - now.threshold / LOWEST}
                text={formatNumber("decibels", now.threshold)}
                set={(travel) => set(LOWEST * (1 - travel))}
                reset={() => set(-48)}
              />
            </span>
            <Well
              label="Softest that is taken value"
              text={formatNumber("decibels", now.threshold)}
              width={72}
              align="right"
              onType={(text) => {
                const value = parseNumber("decibels", text);
                if (value !== null) set(value);
                return value !== null;
              }}
              onStep={(n) => set(now.threshold + n)}
            />
          </span>
          <output className="num whitespace-nowrap text-s">
            {many} of {plural(now.found.length, spec.row)}
          </output>
          <span className="flex-1" />
          <Button onClick={() => rowFinding.leave()} hint={`The ${spec.label.toLowerCase()} stay as they were`}>
            Cancel
          </Button>
          <Button look="primary" onClick={() => rowFinding.take()} hint="The keys sound it already">
            Take
          </Button>
        </>
      )}
    </div>
  );
}
