import { lazy, memo, Suspense, useEffect } from "react";
import { useStore } from "zustand";
import { listZones } from "../../../../core/instrument";
import { FINDING_KINDS, FINDING_TITLES, type Finding, repairs } from "../../../../core/mapping";
import { plural } from "../../../../core/params";
import { engine } from "../../../state/engine";
import { settleAxis } from "../../../state/key-axis";
import { mapCheck } from "../../../state/map-check";
import { session } from "../../../state/session";
import { useInstrument } from "../../../state/use-session";
import { setView, useView } from "../../../state/view";
import { Button } from "../../../widgets/Button";

/** Hundreds of marks: drawn anew only when the map is another. */
const Charts = memo(lazy(() => import("./Charts")));

/** Findings of one kind that are shown one by one. */
const SHOWN = 25;

/** Selects what a finding is about, brings it into sight, and sounds it. */
function show({ zones, keys, velocity }: Finding): void {
  const { keyLow, keyCount } = useView.getState();
  const outside = keys[0] < keyLow || keys[1] >= keyLow + keyCount;
  setView({
    zoneIds: new Set(zones),
    mapPanel: "field",
    ...(outside && settleAxis(Math.round((keys[0] + keys[1]) / 2) - keyCount / 2, keyCount)),
  });
  engine.noteOn(keys[0], velocity);
  setTimeout(() => engine.noteOff(keys[0]), 500);
}

function repair(findings: readonly Finding[]): void {
  const edit = repairs(findings);
  if (!edit) return;
  session.keepBefore("repairing the map");
  session.commit(edit);
}

/** What is doubtful about the map, each with where it is and how it is put right. */
export function MapCheck() {
  const { findings, heard, wanted } = useStore(mapCheck.store);
  useEffect(() => mapCheck.look(true), []);
  const mapped = useInstrument((i) => listZones(i).length > 0);
  if (!mapped) return <p className="p-4 text-ink-soft">Nothing is mapped yet.</p>;
  if (!findings) return <p className="p-4 text-ink-soft">The map is being looked at …</p>;
  const mendable = findings.filter((f) => f.repair !== null);
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-4 pt-3 pb-40" data-testid="map-check">
      {findings.length === 0 ? (
        <p>No warnings: every key in the range sounds, in tune, at every velocity.</p>
      ) : (
        <div className="flex items-center justify-between gap-2">
          <p className="font-semibold">{plural(findings.length, "warning")}</p>
          {mendable.length > 1 && (
            <Button
              hint="Puts right all that has a repair; of what is said of one zone the first, which may settle the rest"
              onClick={() => repair(findings)}
            >
              Repair all
            </Button>
          )}
        </div>
      )}
      {heard < wanted && (
        <p className="num text-ink-soft text-s">
          listening to the samples: {heard} of {wanted}
        </p>
      )}
      {FINDING_KINDS.map((kind) => {
        const own = findings.filter((f) => f.kind === kind);
        return own.length > 0 && <Findings key={kind} title={FINDING_TITLES[kind]} findings={own} />;
      })}
      <Suspense fallback={null}>
        <Charts />
      </Suspense>
    </div>
  );
}

function Findings({ title, findings }: { title: string; findings: readonly Finding[] }) {
  const mendable = findings.filter((f) => f.repair !== null);
  return (
    <section className="mt-3 border-rule border-t pt-2">
      <div className="flex items-baseline justify-between gap-2">
        <h3 className="font-semibold">
          {title} <span className="num font-normal text-ink-soft">{findings.length}</span>
        </h3>
        {mendable.length > 1 && (
          <Button
            look="quiet"
            className="!h-6 !px-1"
            aria-label={`Repair all: ${title}`}
            onClick={() => repair(findings)}
          >
            All
          </Button>
        )}
      </div>
      <ul>
        {findings.slice(0, SHOWN).map((finding) => (
          <li
            key={`${finding.text} ${finding.zones.join()}`}
            className="mt-1.5 border-ochre border-l-[3px] pl-2 text-s"
          >
            <p>{finding.text}.</p>
            <p className="flex flex-wrap gap-x-1">
              <Button look="quiet" className="!h-6 !px-1" onClick={() => show(finding)}>
                Show and hear
              </Button>
              {finding.repair && (
                <Button look="quiet" className="!h-6 !px-1 text-cobalt!" onClick={() => repair([finding])}>
                  {finding.way[0]?.toUpperCase()}
                  {finding.way.slice(1)}
                </Button>
              )}
            </p>
          </li>
        ))}
      </ul>
      {findings.length > SHOWN && (
        <p className="mt-1 text-ink-soft text-s">and {findings.length - SHOWN} more of this kind</p>
      )}
    </section>
  );
}
