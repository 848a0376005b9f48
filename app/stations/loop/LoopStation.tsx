import { Repeat } from "lucide-react";
import { memo, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { useStore } from "zustand";
import { SURE } from "../../../core/analysis";
import { hertzOf, nameOfNote } from "../../../core/audio";
import {
  changeZones,
  type Instrument,
  type LoopMode,
  listSampled,
  type SampledZone,
  type Zone,
} from "../../../core/instrument";
import { beatFrames } from "../../../core/looping";
import { reasonOf } from "../../basis/reason-of";
import { Empty, Station } from "../../shell/Station";
import { useWave } from "../../state/audio-queries";
import { type Command, useCommands } from "../../state/commands";
import { engine } from "../../state/engine";
import { findForAll, foundLoops, worstFirst } from "../../state/loops";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { useView } from "../../state/view";
import { Button } from "../../widgets/Button";
import { useCalm } from "../../widgets/use-calm";
import { useSoon } from "../../widgets/use-soon";
import { type Span, spanAround } from "../../widgets/wave-span";
import { FoundRow } from "./FoundRow";
import { LoopInspector } from "./LoopInspector";
import { LoopSheet } from "./LoopSheet";
import type { UnitFacts } from "./loop-units";
import { ZoneSteps } from "./ZoneSteps";
import { ZoomMenu } from "./ZoomMenu";

/** What a loop does, in a sentence. */
const COURSES: Readonly<Record<LoopMode, string>> = {
  forward: "Plays from the start, then round the hatched part; the crossfade before its end makes the seam.",
  alternating: "Plays from the start, then ping-pong in the hatched part; the crossfade follows each turn.",
  backward: "Plays to the end of the hatched part, then backward through it again and again.",
};

/** Milliseconds between two changes of what stands around the wave. */
const CALM = 120;

/** Loop: start, end and sustain loop of a zone. */
export function LoopStation() {
  const navigate = useNavigate();
  const zoneIds = useView((v) => v.zoneIds);
  // What stands around the wave follows a drag a few times a second: the wave, the course and the seam come first.
  const zones = useCalm(useInstrument(listSampled), CALM);
  const samples = useInstrument((i) => i.samples);
  const zone = zones.find((z) => zoneIds.has(z.id)) ?? zones[0];
  // When the station is opened the wave comes first.
  const soon = useSoon();
  if (!zone) {
    return (
      <Station title="Loop">
        <Empty title="There is no zone to loop">
          <p className="mb-4">Map samples to keys first.</p>
          <Button look="primary" onClick={() => void navigate("/map")}>
            Go to Map
          </Button>
        </Empty>
      </Station>
    );
  }
  return <LoopZone key={zone.id} zone={zone} zones={zones} samples={samples} whole={soon} />;
}

const LoopZone = memo(function LoopZone({
  zone,
  zones,
  samples,
  whole,
}: {
  zone: SampledZone;
  zones: readonly SampledZone[];
  samples: Instrument["samples"];
  /** Whether what stands beside the wave is shown too. */
  whole: boolean;
}) {
  const sample = samples.find((s) => s.sha === zone.sample);
  const shown = useView((v) => v.loopChannel);
  const stereo = (sample?.channels ?? 1) > 1;
  const wave = useWave(zone.sample, true, stereo && shown !== "sum" ? (shown === "left" ? 0 : 1) : null);
  const rate = sample?.rate ?? 44100;
  const frames = sample?.frames ?? zone.end;
  const period = sample && sample.pitch !== null && sample.confidence >= SURE ? rate / hertzOf(sample.pitch) : null;
  const beat = sample?.beat ?? null;
  const facts = useMemo<UnitFacts>(
    () => ({
      rate,
      period,
      beat: beat && { frames: beatFrames(beat, rate), origin: beat.downbeat, bar: beat.bar },
    }),
    [rate, period, beat],
  );
  const [span, setSpan] = useState<Span>({ from: 0, to: frames });
  const bring = useCallback(
    ({ start, end }: { readonly start: number; readonly end: number }) => setSpan(spanAround(start, end, frames)),
    [frames],
  );
  const held = useStore(engine.store, (s) => s.held.has(zone.root));
  const found = useStore(foundLoops, (s) => s.of);
  const order = useMemo(() => worstFirst(zones, found), [zones, found]);
  const place = order.findIndex((z) => z.id === zone.id);
  const { id } = zone;
  const change = useCallback(
    (what: string, fn: (z: Zone) => Zone, gesture: string | null = null) =>
      session.commit({ ...changeZones(new Set([id]), what, fn), anew: true }, gesture),
    [id],
  );
  const hold = () => (held ? engine.noteOff(zone.root) : engine.noteOn(zone.root, (zone.velLow + zone.velHigh) / 2));
  // Whoever leaves lets go.
  const { root } = zone;
  useEffect(
    () => () => {
      if (engine.store.getState().held.has(root)) engine.noteOff(root);
    },
    [root],
  );
  const holding = useRef(hold);
  useEffect(() => {
    holding.current = hold;
  });
  const commands = useMemo<readonly Command[]>(
    () => [
      {
        id: "hold-root",
        label: "Hold the zone’s root note, or release it",
        chords: ["Alt+H"],
        run: () => holding.current(),
      },
    ],
    [],
  );
  useCommands("The zone that is looped", commands);
  const { loop } = zone;
  return (
    <Station
      title="Loop"
      facts={`${place + 1} of ${zones.length} zones${found.size > 0 ? " · worst first" : ""}`}
      actions={
        <>
          <ZoneSteps zone={zone} order={order} samples={samples} />
          <Button
            hint="Finds loops for all zones that have none, and takes the best of each; they then stand worst first"
            onClick={() => void findForAll()}
          >
            Find for all
          </Button>
          <ZoomMenu loop={zone.loop} frames={frames} rate={rate} stereo={stereo} onSpan={setSpan} />
          <Button look="primary" pressed={held} onClick={hold} hint="Holds the root note until you press again">
            {held ? "Release" : "Hold"} {nameOfNote(zone.root)}
          </Button>
        </>
      }
      filling
      inspector={
        whole && (
          <LoopInspector
            zone={zone}
            zones={zones}
            wave={wave.data ?? null}
            samples={samples}
            frames={frames}
            facts={facts}
            change={change}
            onLoop={bring}
          />
        )
      }
    >
      {wave.data ? (
        <>
          <FoundRow zone={zone} samples={samples} rate={rate} span={span} onTake={bring} />
          <LoopSheet id={zone.id} wave={wave.data} facts={facts} span={span} onSpan={setSpan} change={change} />
          <p className="flex h-7 shrink-0 items-center gap-2 border-rule border-t px-3.5 text-ink-soft text-s">
            <Repeat size={12} aria-hidden />
            <span className="truncate">
              {loop ? COURSES[loop.mode] : "Plays from start to end once."} Arrow keys move a flag by a sample, with
              Ctrl by a period.
            </span>
          </p>
        </>
      ) : (
        <Empty title={wave.error ? "The sound of this zone isn't there" : "Reading the sound …"}>
          {wave.error ? `${reasonOf(wave.error)}.` : "The waveform comes in a moment."}
        </Empty>
      )}
    </Station>
  );
});
