import { memo } from "react";
import { type Instrument, newLoop, type SampledZone, type Zone } from "../../../core/instrument";
import { reasonOf } from "../../basis/reason-of";
import type { Wave } from "../../state/audio-queries";
import { moveEnd, useJudged } from "../../state/loops";
import { tell } from "../../state/notices";
import { setView, useView } from "../../state/view";
import { Choice } from "../../widgets/Choice";
import { MenuButton } from "../../widgets/CommandMenu";
import { Row, Section } from "../../widgets/ParamControl";
import { TabPanel, TabRow, Tabs } from "../../widgets/Tabs";
import { Well } from "../../widgets/Well";
import { BeatPanel } from "./BeatPanel";
import { EvenRow } from "./EvenRow";
import { withEdges } from "./edges";
import { WhyThisOne } from "./FoundRow";
import { firstLoop } from "./first-loop";
import { LoopFields } from "./LoopFields";
import { loopCommands } from "./loop-commands";
import { type LoopUnit, placeText, typedPlace, type UnitFacts, usable } from "./loop-units";
import { StartSection } from "./StartSection";
import { Unheard } from "./Unheard";
import { UnheardRelease } from "./UnheardRelease";
import { VariantsRow } from "./VariantsRow";
import { ZoneListPanel } from "./ZoneListPanel";

const SETTLES = [
  { id: "nothing", label: "nothing" },
  { id: "zero", label: "zero crossings" },
  { id: "period", label: "whole periods" },
  { id: "beat", label: "beats" },
] as const;

const UNITS = [
  { id: "time", label: "time" },
  { id: "samples", label: "samples" },
  { id: "periods", label: "periods" },
  { id: "beats", label: "bars and beats" },
] as const;

interface LoopInspectorProps {
  readonly zone: SampledZone;
  readonly zones: readonly SampledZone[];
  /** null while it is being read. */
  readonly wave: Wave | null;
  readonly samples: Instrument["samples"];
  readonly frames: number;
  readonly facts: UnitFacts;
  readonly change: (what: string, fn: (zone: Zone) => Zone, gesture?: string | null) => void;
  /** A loop was made: it comes into view. */
  readonly onLoop: (loop: { readonly start: number; readonly end: number }) => void;
}

/** What belongs to a zone's playback by figures, its sample's beat, and the other zones. */
export const LoopInspector = memo(function LoopInspector(given: LoopInspectorProps) {
  const { zone, zones, samples, change, onLoop } = given;
  const side = useView((v) => v.loopSide);
  const sample = samples.find((s) => s.sha === zone.sample);
  return (
    <Tabs shown={side} onShow={(loopSide) => setView({ loopSide })}>
      <TabRow
        label="Beside the wave"
        className="h-12! items-stretch border-rule border-b px-1"
        tabs={[
          { id: "loop", label: "Loop" },
          { id: "beat", label: "Beat" },
          { id: "zones", label: "Zones", count: String(zones.length) },
        ]}
      />
      <TabPanel id="loop">
        <div className="min-h-0 flex-1 overflow-y-auto overflow-x-hidden px-4 pt-3.5 pb-40">
          <LoopFigures {...given} />
        </div>
      </TabPanel>
      <TabPanel id="beat">
        <div className="min-h-0 flex-1 overflow-y-auto overflow-x-hidden px-4 pt-3.5 pb-40">
          <BeatPanel zone={zone} sample={sample} change={change} onLoop={onLoop} />
        </div>
      </TabPanel>
      <TabPanel id="zones">
        <ZoneListPanel zone={zone} zones={zones} samples={samples} />
      </TabPanel>
    </Tabs>
  );
});

/** Start and end, both loops, and why this loop. */
function LoopFigures({ zone, wave, samples, frames, facts, change, onLoop }: LoopInspectorProps) {
  const settles = useView((v) => v.loopSettles);
  const wanted = useView((v) => v.loopUnit);
  const unit = usable(wanted, facts);
  const name = samples.find((s) => s.sha === zone.sample)?.name ?? zone.id;
  const judged = useJudged(zone, samples);
  const { loop } = zone;
  const { period, beat, rate } = facts;
  const means = (id: LoopUnit | "beat" | "period") =>
    (id !== "period" && id !== "periods") || period !== null
      ? (id !== "beat" && id !== "beats") || beat !== null
      : false;
  const place = (label: string, frame: number, set: (frame: number) => Zone) => (
    <Row label={label}>
      <Well
        label={label}
        text={placeText(frame, unit, facts)}
        width={104}
        align="right"
        hint="Typed in any unit: 12 ms, 300 samples, 3 periods, 2 beats"
        onType={(text) => {
          const to = typedPlace(text, unit, facts);
          if (to === null) return false;
          const next = set(to);
          change(`Set ${label.toLowerCase()}`, () => next);
          if (to > next.start && to < next.end)
            tell("warning", `${label} stops at the loop: move the loop or switch it off to go further.`);
          return true;
        }}
        onStep={(steps) => change(`Set ${label.toLowerCase()}`, () => set(frame + steps), "step")}
      />
    </Row>
  );
  const further = (which: "start" | "end", by: 1 | -1) =>
    void moveEnd(zone, which, by).catch((error: unknown) => tell("error", `It can’t be searched: ${reasonOf(error)}.`));
  return (
    <>
      <div className="flex items-center justify-between gap-2">
        <h2 className="mb-2 truncate font-display font-semibold text-l">{name}</h2>
        <MenuButton label="What can be done with loops" commands={loopCommands(zone)} />
      </div>
      <Section title="Plays">
        <Row label="Shown in" help="Places and lengths here and on the ruler; any unit can be typed">
          <Choice
            label="In what places and lengths are shown"
            value={unit}
            options={UNITS.map((u) => ({ ...u, disabled: !means(u.id) }))}
            onChange={(id) => setView({ loopUnit: id as LoopUnit })}
            className="flex-1"
          />
        </Row>
        {place("Start", zone.start, (start) => withEdges(zone, { start }))}
        {place("End", zone.end, (end) => withEdges(zone, { end }))}
      </Section>
      <LoopFields
        title="Sustain loop"
        sustain
        loop={loop}
        unit={unit}
        facts={facts}
        released={zone.releaseLoop !== null}
        ready={wave !== null}
        first={() => (wave ? firstLoop(wave.close?.values ?? new Float32Array(0), zone, rate) : null)}
        change={(what, next, gesture) => {
          change(what, (z) => ({ ...z, loop: next }), gesture ?? null);
          if (next && !loop) onLoop(next);
        }}
        further={further}
        empty="Without a loop the note ends with its sample. Switching it on begins with a loop of whole periods, late in the sound."
      >
        {loop && (
          <>
            <EvenRow zone={zone} period={period} pulse={judged?.parts.pulse ?? null} change={change} />
            <Row
              label="Snap to"
              help="What the loop’s flags snap to while dragged; Alt switches it off, arrow keys go by samples"
            >
              <Choice
                label="Snap flags to"
                value={settles}
                options={SETTLES.map((s) => ({ ...s, disabled: !means(s.id as LoopUnit) }))}
                onChange={(id) => setView({ loopSettles: id as typeof settles })}
                className="flex-1"
              />
            </Row>
            <VariantsRow zone={zone} rate={rate} change={change} />
          </>
        )}
      </LoopFields>
      <WhyThisOne zone={zone} samples={samples} judged={judged} />
      <LoopFields
        title="Release loop"
        sustain={false}
        loop={zone.releaseLoop}
        unit={unit}
        facts={facts}
        released={false}
        ready
        first={() => {
          const end = Math.min(zone.end, frames);
          const from = Math.max(loop ? loop.end : zone.start, Math.round(end - (end - zone.start) / 5));
          return end - from > 64 ? newLoop({ start: from, end: Math.round(from + (end - from) / 2), times: 2 }) : null;
        }}
        change={(what, next, gesture) => {
          change(what, (z) => ({ ...z, releaseLoop: next }), gesture ?? null);
          if (next && !zone.releaseLoop) onLoop({ start: loop?.start ?? next.start, end: next.end });
        }}
        empty="A loop of its own for after the key was released. It has to lie behind the sustain loop."
      />
      <UnheardRelease zone={zone} rate={rate} />
      <Unheard zone={zone} change={change} />
      <StartSection zone={zone} />
    </>
  );
}
