import { X } from "lucide-react";
import { memo } from "react";
import {
  changeZones,
  type Inherited,
  type InheritedPart,
  type Instrument,
  inheritedOf,
  setParam,
  together,
} from "../../../core/instrument";
import { formatNumber } from "../../../core/params";
import { session } from "../../state/session";
import { useInstrumentParts } from "../../state/use-session";
import { useView } from "../../state/view";
import { Section } from "../../widgets/ParamControl";

const ROWS = [
  { id: "level", label: "Level", unit: "decibels", field: "gain" },
  { id: "pan", label: "Pan", unit: "pan", field: "pan" },
  { id: "tune", label: "Tuning", unit: "cents", field: "tune" },
] as const;

/** What a part is called: by its kind, and its name where there may be several. */
const whoIs = ({ from, name }: InheritedPart): string =>
  from === "zone" ? "the zone" : from === "instrument" ? "master" : `${from} ${name}`;

/** Lets a part say nothing any more: the zones take what they inherit. */
function reset(part: InheritedPart, what: (typeof ROWS)[number]): void {
  const { instrument } = session;
  if (!instrument) return;
  if (part.from === "zone") {
    session.commit(
      changeZones(useView.getState().zoneIds, `Reset ${what.label.toLowerCase()}`, (z) => ({ ...z, [what.field]: 0 })),
    );
    return;
  }
  const name = `Reset ${what.label.toLowerCase()} of ${whoIs(part)}`;
  session.commit(
    together(
      name,
      part.addresses.map((address) => setParam(instrument, address, part.usual)),
    ),
  );
}

/** Everything that adds to a zone's level, pan and tuning, as one text for each that stays the same while nothing of it changes. */
function partsOf(instrument: Instrument, zone: string): readonly string[] {
  const inherited = inheritedOf(instrument, zone);
  return inherited ? ROWS.map(({ id }) => JSON.stringify(inherited[id])) : [];
}

/** Where the level, pan and tuning of the selected zones come from: each place that says something of it, which can be reset so that it is inherited. */
export const InheritedRows = memo(function InheritedRows({ zone }: { zone: string }) {
  const texts = useInstrumentParts((i) => partsOf(i, zone));
  return (
    <Section title="Added up from zone to master">
      {ROWS.map((what, i) => {
        if (!texts[i]) return null;
        const { parts, sum } = JSON.parse(texts[i]) as { parts: InheritedPart[]; sum: number };
        return (
          <div key={what.id} className="grid grid-cols-[84px_minmax(0,1fr)] gap-x-1 py-0.5">
            <span>{what.label}</span>
            <span>
              <span className="num text-[12px]">{formatNumber(what.unit, sum)}</span>
              <Said parts={parts} what={what} />
            </span>
          </div>
        );
      })}
    </Section>
  );
});

function Said({ parts, what }: { parts: readonly InheritedPart[]; what: (typeof ROWS)[number] & { id: Inherited } }) {
  const said = parts.filter((p) => p.value !== 0);
  if (said.length === 0) return <span className="ml-2 text-ink-soft text-s">nothing added</span>;
  return (
    <span className="block text-ink-soft text-s">
      {said.map((part) => (
        <span key={`${part.from} ${part.name}`} className="flex items-center justify-between gap-1">
          <span className="truncate">{whoIs(part)}</span>
          <span className="flex items-center">
            <span className="num">{formatNumber(what.unit, part.value)}</span>
            {part.value === part.usual ? (
              <span className="w-5" />
            ) : (
              <button
                type="button"
                aria-label={`Reset ${what.label.toLowerCase()} of ${whoIs(part)}`}
                title="Reset, so that it is inherited"
                onClick={() => reset(part, what)}
                className="grid h-5 w-5 place-items-center rounded-s hover:bg-well hover:text-ink"
              >
                <X size={11} aria-hidden />
              </button>
            )}
          </span>
        </span>
      ))}
    </span>
  );
}
