import { nameOfNote, parseNote } from "../../../../core/audio";
import { type SpreadMode, saysGone, whatGoes } from "../../../../core/mapping";
import { plural } from "../../../../core/params";
import { audition } from "../../../state/audio-queries";
import type { Proposal } from "../../../state/proposal";
import { proposing } from "../../../state/proposing";
import { useInstrument } from "../../../state/use-session";
import { Button } from "../../../widgets/Button";
import { Choice } from "../../../widgets/Choice";
import { Row } from "../../../widgets/ParamControl";
import { Well } from "../../../widgets/Well";
import { ReachRows } from "../ReachRows";
import { SPREADS } from "../spreads";
import { reasonsOf } from "./why";

const KINDS = [
  { id: "notes", label: "Notes of one instrument" },
  { id: "kit", label: "A kit: a key for each sound" },
];

/** Doubts that are shown one by one. */
const SHOWN = 40;

/** Why the zones would be as they are; each doubt has its own way out. */
export function Why({ proposal }: { proposal: Proposal }) {
  const { placement, spread, evidence, samples, heard, octaves } = proposal;
  const index = new Map(samples.map((s, i) => [s.sha, i]));
  const believed = samples.filter((s) => heard.has(s.sha));
  return (
    <section aria-label="Why" className="min-h-0">
      <p className="mb-2 text-ink-soft text-s">
        Nothing is changed yet: the keys already sound what would be. Try it, then place it, or not.
      </p>
      <h2 className="pb-1 font-display font-semibold">Why</h2>
      <Goes proposal={proposal} />
      <Choice
        label="What the samples are"
        value={placement.kit ? "kit" : "notes"}
        options={KINDS}
        onChange={(id) => proposing.setKit(id === "kit")}
        className="mb-2 w-full"
      />
      <dl className="grid grid-cols-[76px_1fr] gap-y-1 text-s">
        {reasonsOf(proposal).map(({ about, text }) => (
          <div key={about} className="contents">
            <dt className="font-semibold">{about}</dt>
            <dd className="text-ink-soft">{text}</dd>
          </div>
        ))}
      </dl>
      {!placement.kit && <SpreadOfRoots spread={spread} octaves={octaves} />}
      {placement.doubts.slice(0, SHOWN).map(({ sample, doubt }) => {
        const says = evidence.weighed[index.get(sample.sha) ?? -1];
        return (
          <div key={sample.sha} className="mt-2 border-ochre border-l-[3px] py-0.5 pl-2 text-s">
            <p>
              <b className="break-words font-semibold">{sample.name}</b>: {doubt}.
            </p>
            <p className="flex gap-1">
              <Button look="quiet" className="!h-6 !px-1" onClick={() => void audition(sample.sha, 0, sample.frames)}>
                Hear
              </Button>
              {says?.from === "name" && says.heard !== null && (
                <Button look="quiet" className="!h-6 !px-1" onClick={() => proposing.believe(sample.sha, true)}>
                  Believe the sound
                </Button>
              )}
            </p>
          </div>
        );
      })}
      {placement.doubts.length > SHOWN && (
        <p className="mt-2 text-ink-soft text-s">and {plural(placement.doubts.length - SHOWN, "more warning")}</p>
      )}
      {believed.map((sample) => (
        <div key={sample.sha} className="mt-2 border-rule-strong border-l-[3px] py-0.5 pl-2 text-s">
          <p>
            <b className="break-words font-semibold">{sample.name}</b>: the sound is believed.
          </p>
          <Button look="quiet" className="!h-6 !px-1" onClick={() => proposing.believe(sample.sha, false)}>
            Believe the name
          </Button>
        </div>
      ))}
      <LeftOut placement={placement} />
    </section>
  );
}

/** What would go, where all zones are replaced. */
function Goes({ proposal: { into } }: { proposal: Proposal }) {
  const instrument = useInstrument((i) => i);
  const going = into === "replace" ? whatGoes(instrument) : null;
  if (!going || going.zones === 0) return null;
  return (
    <p className="mb-2 border-ochre border-l-[3px] py-0.5 pl-2 text-s">
      In their place goes what is mapped: {saysGone(going)}. Undo brings it back.
    </p>
  );
}

/** How the keys between the roots are filled, and by how many octaves all is moved. */
function SpreadOfRoots({ spread, octaves }: Pick<Proposal, "spread" | "octaves">) {
  return (
    <>
      <dl className="grid grid-cols-[76px_1fr] gap-y-1 text-s">
        <dt className="pt-1 font-semibold">Spread</dt>
        <dd className="flex flex-wrap items-center gap-1.5">
          <Choice
            label="Keys between the roots"
            value={spread.mode}
            options={SPREADS}
            onChange={(mode) => proposing.setSpread({ mode: mode as SpreadMode })}
            className="w-full"
          />
          <Limit label="Lowest key" value={spread.low} set={(low) => proposing.setSpread({ low })} />
          <span className="text-ink-soft">to</span>
          <Limit label="Highest key" value={spread.high} set={(high) => proposing.setSpread({ high })} />
        </dd>
      </dl>
      <div className="h-1.5" />
      <ReachRows
        most={spread.most ?? 127}
        outer={spread.outer ?? true}
        onMost={(most) => proposing.setSpread({ most })}
        onOuter={(outer) => proposing.setSpread({ outer })}
      />
      <Row label="Octaves" help="Moves all that is proposed by whole octaves, where the set means another middle C">
        <Well
          label="Octaves by which all is moved"
          text={octaves > 0 ? `+${octaves}` : String(octaves).replace("-", "−")}
          width={52}
          onType={(text) => {
            const parsed = Number(text.trim().replace("−", "-"));
            if (!Number.isInteger(parsed) || text.trim() === "" || Math.abs(parsed) > 5) return false;
            proposing.setOctaves(parsed);
            return true;
          }}
          onStep={(steps) => proposing.setOctaves(Math.max(-5, Math.min(5, octaves + Math.sign(steps))))}
        />
      </Row>
    </>
  );
}

function LeftOut({ placement }: { placement: Proposal["placement"] }) {
  const { leftOut } = placement;
  if (leftOut.length === 0) return <p className="mt-2 text-ink-soft text-s">Excluded: none.</p>;
  return (
    <details className="mt-2 text-s">
      <summary className="cursor-pointer text-ink-soft">
        Excluded: {leftOut.length}. They stay among the samples.
      </summary>
      <ul className="pl-3">
        {leftOut.slice(0, SHOWN).map(({ sample, reason }) => (
          <li key={sample.sha}>
            {sample.name}: {reason}
          </li>
        ))}
        {leftOut.length > SHOWN && <li>and {leftOut.length - SHOWN} more</li>}
      </ul>
    </details>
  );
}

function Limit({ label, value, set }: { label: string; value: number; set: (key: number) => void }) {
  return (
    <Well
      label={label}
      text={nameOfNote(value)}
      width={52}
      onType={(text) => {
        const key = parseNote(text);
        if (key !== null) set(key);
        return key !== null;
      }}
      onStep={(steps) => set(Math.min(127, Math.max(0, value + steps)))}
    />
  );
}
