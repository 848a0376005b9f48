import { type Instrument, newLoop, type SampledZone, type Zone } from "../../../core/instrument";
import { parseNumber } from "../../../core/params";
import type { Wave } from "../../state/audio-queries";
import { tell } from "../../state/notices";
import { setView, useView } from "../../state/view";
import { Choice } from "../../widgets/Choice";
import { MenuButton } from "../../widgets/CommandMenu";
import { Row, Section } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";
import { withEdges } from "./edges";
import { WhyThisOne } from "./FoundRow";
import { firstLoop } from "./first-loop";
import { LoopFields } from "./LoopFields";
import { loopCommands } from "./loop-commands";
import { UnheardRelease } from "./UnheardRelease";

const SETTLES = [
  { id: "nothing", label: "nothing" },
  { id: "zero", label: "zero crossings" },
  { id: "period", label: "whole periods" },
] as const;

interface LoopInspectorProps {
  readonly zone: SampledZone;
  /** null while it is being read. */
  readonly wave: Wave | null;
  readonly samples: Instrument["samples"];
  readonly rate: number;
  readonly frames: number;
  /** Length of a period in frames; null where no pitch is known. */
  readonly period: number | null;
  readonly change: (what: string, fn: (zone: Zone) => Zone, gesture?: string | null) => void;
}

/** What of a zone's playback is set by figures: start and end, both loops, and why this loop. */
export function LoopInspector({ zone, wave, samples, rate, frames, period, change }: LoopInspectorProps) {
  const settles = useView((v) => v.loopSettles);
  const name = samples.find((s) => s.sha === zone.sample)?.name ?? zone.id;
  const { loop } = zone;
  const time = (label: string, frame: number, set: (frame: number) => Zone) => (
    <Row label={label}>
      <Well
        label={label}
        text={`${((frame / rate) * 1000).toFixed(2)} ms`}
        width={100}
        align="right"
        onType={(text) => {
          const seconds = parseNumber("seconds", text);
          if (seconds === null) return false;
          const wanted = Math.round(seconds * rate);
          const next = set(wanted);
          change(`Set ${label.toLowerCase()}`, () => next);
          if (wanted > next.start && wanted < next.end)
            tell("doubt", `${label} stops at the loop: move the loop or switch it off to go further.`);
          return true;
        }}
        onStep={(steps) => change(`Set ${label.toLowerCase()}`, () => set(frame + steps), "step")}
      />
    </Row>
  );
  return (
    <>
      <div className="flex items-center justify-between gap-2">
        <h2 className="mb-2 truncate font-display font-semibold text-l">{name}</h2>
        <MenuButton label="What can be done with loops" commands={loopCommands(zone)} />
      </div>
      <Section title="Plays">
        {time("Start", zone.start, (start) => withEdges(zone, { start }))}
        {time("End", zone.end, (end) => withEdges(zone, { end }))}
      </Section>
      <LoopFields
        title="Sustain loop"
        sustain
        loop={loop}
        released={zone.releaseLoop !== null}
        ready={wave !== null}
        rate={rate}
        first={() => (wave ? firstLoop(wave.close?.values ?? new Float32Array(0), zone, rate) : null)}
        change={(what, next, gesture) => change(what, (z) => ({ ...z, loop: next }), gesture ?? null)}
        empty="Without a loop the note ends with its sample. Switching it on begins with a loop of whole periods, late in the sound."
      />
      {loop && (
        <Row label="Settles on" help="Where the loop’s flags settle while they are dragged; arrow keys go by samples">
          <Choice
            label="What the flags settle on"
            value={settles}
            options={SETTLES.map((s) => ({ ...s, disabled: s.id === "period" && period === null }))}
            onChange={(id) => setView({ loopSettles: id as typeof settles })}
            className="flex-1"
          />
        </Row>
      )}
      <WhyThisOne zone={zone} samples={samples} />
      <LoopFields
        title="Release loop"
        sustain={false}
        loop={zone.releaseLoop}
        released={false}
        ready
        rate={rate}
        first={() => {
          const end = Math.min(zone.end, frames);
          const from = Math.max(loop ? loop.end : zone.start, Math.round(end - (end - zone.start) / 5));
          return end - from > 64 ? newLoop({ start: from, end: Math.round(from + (end - from) / 2), times: 2 }) : null;
        }}
        change={(what, next, gesture) => change(what, (z) => ({ ...z, releaseLoop: next }), gesture ?? null)}
        empty="A loop of its own for after the key was let go. It has to lie behind the sustain loop."
      />
      <UnheardRelease zone={zone} rate={rate} />
      {zone.releaseLoop && loop && zone.releaseLoop.end <= loop.end && (
        <p className="text-ochre text-s">
          The release loop ends before the sustain loop does: it is never reached in order.
        </p>
      )}
    </>
  );
}
