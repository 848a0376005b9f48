import { useCallback, useMemo } from "react";
import { useStore } from "zustand";
import { type Loop, listZones, type SampledZone, type Zone } from "../../../core/instrument";
import type { Wave } from "../../state/audio-queries";
import { engine } from "../../state/engine";
import { isDrag } from "../../state/gesture";
import { useHeard } from "../../state/use-heard";
import { useView } from "../../state/view";
import type { Colours } from "../../widgets/Drawing";
import { WaveHandle } from "../../widgets/WaveHandle";
import { WaveView } from "../../widgets/WaveView";
import type { Ruler } from "../../widgets/wave-ruler";
import type { WaveScale } from "../../widgets/wave-scale";
import type { Span } from "../../widgets/wave-span";
import { drawCrossings, drawHeard, hatch, nameLoop } from "./draw-loop";
import { slid, withEdges } from "./edges";
import { LoopBody } from "./LoopBody";
import { lengthText, placeText, type UnitFacts, usable } from "./loop-units";
import { settledFlag } from "./settle-flag";

interface LoopWaveProps {
  readonly zone: SampledZone;
  readonly wave: Wave;
  readonly facts: UnitFacts;
  readonly span: Span;
  readonly onSpan: (span: Span) => void;
  readonly change: (what: string, fn: (zone: Zone) => Zone, gesture: string) => void;
}

/** The zone's waveform with its start, end, loop and crossfade. */
export function LoopWave({ zone, wave, facts, span, onSpan, change }: LoopWaveProps) {
  const { rate } = facts;
  const unit = usable(
    useView((v) => v.loopUnit),
    facts,
  );
  const { loop, releaseLoop } = zone;
  const under = useCallback(
    (pen: CanvasRenderingContext2D, scale: WaveScale, colours: Colours) => {
      if (releaseLoop) hatch(pen, scale, releaseLoop, -1, colours);
      if (!loop) return;
      hatch(pen, scale, loop, 1, colours);
      drawCrossings(pen, scale, loop, colours);
    },
    [loop, releaseLoop],
  );
  const samples = wave.close?.from === 0 ? wave.close.values : null;
  const over = useCallback(
    (pen: CanvasRenderingContext2D, scale: WaveScale, colours: Colours, gain: number) => {
      if (loop && samples) drawHeard(pen, scale, loop, samples, colours, gain);
      pen.fillStyle = colours.ground;
      pen.globalAlpha = 0.75;
      const start = scale.x(zone.start);
      if (start > 0) pen.fillRect(0, 0, start, scale.height);
      const end = scale.x(zone.end);
      if (end < scale.width) pen.fillRect(end, 0, scale.width - end, scale.height);
      pen.globalAlpha = 1;
      if (releaseLoop) nameLoop(pen, scale, releaseLoop, "after", colours);
      if (loop) nameLoop(pen, scale, loop, "while held", colours);
    },
    [zone.start, zone.end, loop, releaseLoop, samples],
  );
  // From the loop as it was when the drag began: what a short loop took from the crossfade comes back.
  const reshape = (what: string, fn: (loop: Loop) => Loop, gesture: string) =>
    change(what, (z) => (z.loop ? { ...z, loop: fn(z.loop) } : z), gesture);
  const settles = useView((v) => v.loopSettles);
  // By keys it goes from sample to sample.
  const settle = (frame: number, other: number, gesture: string) =>
    isDrag(gesture) ? settledFlag(settles, frame, other, samples, facts) : frame;
  const reshapeRelease = (what: string, fn: (loop: Loop) => Loop, gesture: string) =>
    change(what, (z) => (z.releaseLoop ? { ...z, releaseLoop: fn(z.releaseLoop) } : z), gesture);
  // The engine's number of the zone.
  const own = useHeard((i) => listZones(i).findIndex((z) => z.id === zone.id));
  const cursors = useStore(engine.store, (s) => s.cursors).filter((c) => c.zone === own);
  const at = (frame: number) => placeText(frame, unit, facts);
  const { period, beat } = facts;
  const stride = (unit === "beats" ? beat?.frames : period) ?? undefined;
  const ruler = useMemo<Ruler | undefined>(() => {
    if (unit === "samples") return { size: 1, origin: 0, suffix: "" };
    return unit === "periods" && period ? { size: period, origin: 0, suffix: " p" } : undefined;
  }, [unit, period]);
  const beats = useMemo(
    () =>
      unit === "beats" && beat ? { tempo: (60 * rate) / beat.frames, origin: beat.origin / rate, bar: beat.bar } : null,
    [unit, beat, rate],
  );
  return (
    <WaveView
      sha={zone.sample}
      wave={wave}
      rate={rate}
      span={span}
      onSpan={onSpan}
      under={under}
      over={over}
      ruler={ruler}
      beats={beats}
      label="Waveform of the zone's sample with its loop"
      fill="shown"
    >
      {(scale) => (
        <>
          {cursors.map((cursor) => (
            <div
              key={cursor.frame}
              className="absolute inset-y-0 left-0 w-[2px] bg-leaf"
              style={{ transform: `translateX(${scale.x(cursor.frame)}px)` }}
            />
          ))}
          <WaveHandle
            scale={scale}
            frame={zone.start}
            side="right"
            colour="var(--ink)"
            label="Start"
            inner
            text={at(zone.start)}
            set={(start, g) => change("Set start", (z) => withEdges(z, { start }), g)}
          />
          <WaveHandle
            scale={scale}
            frame={zone.end}
            side="left"
            colour="var(--ink)"
            label="End"
            inner
            text={at(zone.end)}
            set={(end, g) => change("Set end", (z) => withEdges(z, { end }), g)}
          />
          {releaseLoop && (
            <>
              <WaveHandle
                scale={scale}
                frame={releaseLoop.start}
                side="right"
                colour="var(--ink-soft)"
                label="Release loop start"
                text={at(releaseLoop.start)}
                top={false}
                set={(start, g) => reshapeRelease("Set release loop start", (l) => ({ ...l, start }), g)}
              />
              <WaveHandle
                scale={scale}
                frame={releaseLoop.end}
                side="left"
                colour="var(--ink-soft)"
                label="Release loop end"
                text={at(releaseLoop.end)}
                top={false}
                set={(end, g) => reshapeRelease("Set release loop end", (l) => ({ ...l, end }), g)}
              />
            </>
          )}
          {loop && (
            <>
              <LoopBody
                scale={scale}
                loop={loop}
                slide={(to, g) =>
                  change("Slide the loop", (z) => (z.loop ? { ...z, loop: slid(z, z.loop, to) } : z), g)
                }
              />
              <WaveHandle
                scale={scale}
                frame={loop.mode === "backward" ? loop.start + loop.fade : loop.end - loop.fade}
                side={loop.mode === "backward" ? "left" : "right"}
                label="Crossfade"
                inner
                text={lengthText(loop.fade, unit, facts)}
                top={false}
                set={(frame, g) =>
                  reshape(
                    "Set crossfade",
                    (l) => ({ ...l, fade: Math.max(0, l.mode === "backward" ? frame - l.start : l.end - frame) }),
                    g,
                  )
                }
              />
              <WaveHandle
                scale={scale}
                frame={loop.start}
                side="right"
                colour="var(--ink)"
                label="Loop start"
                stride={stride}
                text={at(loop.start)}
                set={(to, g) => reshape("Set loop start", (l) => ({ ...l, start: settle(to, l.end, g) }), g)}
              />
              <WaveHandle
                scale={scale}
                frame={loop.end}
                side="left"
                colour="var(--ink)"
                label="Loop end"
                stride={stride}
                text={at(loop.end)}
                set={(to, g) => reshape("Set loop end", (l) => ({ ...l, end: settle(to, l.start, g) }), g)}
              />
            </>
          )}
        </>
      )}
    </WaveView>
  );
}
