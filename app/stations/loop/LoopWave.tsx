import { useCallback } from "react";
import { useStore } from "zustand";
import type { Loop, SampledZone, Zone } from "../../../core/instrument";
import { formatNumber } from "../../../core/params";
import type { Wave } from "../../state/audio-queries";
import { engine } from "../../state/engine";
import type { Colours } from "../../widgets/Drawing";
import { WaveHandle } from "../../widgets/WaveHandle";
import { WaveView } from "../../widgets/WaveView";
import type { WaveScale } from "../../widgets/wave-scale";
import type { Span } from "../../widgets/wave-span";
import { crossings } from "./crossings";
import { withEdges } from "./edges";

interface LoopWaveProps {
  /** The zone's place among all zones, by which the engine knows it. */
  readonly index: number;
  readonly zone: SampledZone;
  readonly wave: Wave;
  readonly rate: number;
  readonly span: Span;
  readonly onSpan: (span: Span) => void;
  readonly change: (what: string, fn: (zone: Zone) => Zone, gesture: string) => void;
}

/** The zone's waveform with its start, end, loop and crossfade. */
export function LoopWave({ index, zone, wave, rate, span, onSpan, change }: LoopWaveProps) {
  const { loop } = zone;
  const under = useCallback(
    (pen: CanvasRenderingContext2D, scale: WaveScale, colours: Colours) => {
      if (!loop) return;
      const x = scale.x(loop.start);
      const end = scale.x(loop.end);
      pen.fillStyle = colours["tint-leaf"];
      pen.fillRect(x, 0, end - x, scale.height);
      pen.fillStyle = colours["tint-cobalt"];
      pen.strokeStyle = colours.cobalt;
      const line = (from: number, to: number) => {
        pen.beginPath();
        pen.moveTo(scale.x(from), scale.height);
        pen.lineTo(scale.x(to), 0);
        pen.stroke();
      };
      for (const { from, to, beyond } of crossings(loop)) {
        pen.beginPath();
        pen.moveTo(scale.x(from), scale.height);
        pen.lineTo(scale.x(to), 0);
        pen.lineTo(scale.x(to), scale.height);
        pen.fill();
        line(from, to);
        // What lies beyond the loop is what crosses with it.
        pen.setLineDash([3, 3]);
        line(beyond.from, beyond.to);
        pen.setLineDash([]);
      }
    },
    [loop],
  );
  const over = useCallback(
    (pen: CanvasRenderingContext2D, scale: WaveScale, colours: Colours) => {
      pen.fillStyle = colours.ground;
      pen.globalAlpha = 0.75;
      const start = scale.x(zone.start);
      if (start > 0) pen.fillRect(0, 0, start, scale.height);
      const end = scale.x(zone.end);
      if (end < scale.width) pen.fillRect(end, 0, scale.width - end, scale.height);
      pen.globalAlpha = 1;
    },
    [zone.start, zone.end],
  );
  // From the loop as it was when the drag began: what a short loop took from the crossfade comes back.
  const reshape = (what: string, fn: (loop: Loop) => Loop, gesture: string) =>
    change(what, (z) => (z.loop ? { ...z, loop: fn(z.loop) } : z), gesture);
  const cursors = useStore(engine.store, (s) => s.cursors).filter((c) => c.zone === index);
  const at = (frame: number) => formatNumber("seconds", frame / rate);
  return (
    <WaveView
      sha={zone.sample}
      wave={wave}
      rate={rate}
      span={span}
      onSpan={onSpan}
      under={under}
      over={over}
      label="Waveform of the zone's sample with its loop"
      fill
    >
      {(scale) => (
        <>
          {cursors.map((cursor) => (
            <div
              key={cursor.frame}
              className="absolute inset-y-0 left-0 w-[2px] bg-vermilion"
              style={{ transform: `translateX(${scale.x(cursor.frame)}px)` }}
            />
          ))}
          <WaveHandle
            scale={scale}
            frame={zone.start}
            side="right"
            colour="var(--ink)"
            label="Start"
            text={at(zone.start)}
            set={(start, g) => change("Set start", (z) => withEdges(z, { start }), g)}
          />
          <WaveHandle
            scale={scale}
            frame={zone.end}
            side="left"
            colour="var(--ink)"
            label="End"
            text={at(zone.end)}
            set={(end, g) => change("Set end", (z) => withEdges(z, { end }), g)}
            top={false}
          />
          {loop && (
            <>
              <WaveHandle
                scale={scale}
                frame={loop.mode === "backward" ? loop.start + loop.fade : loop.end - loop.fade}
                side={loop.mode === "backward" ? "left" : "right"}
                label="Crossfade"
                text={at(loop.fade)}
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
                colour="var(--leaf)"
                label="Loop start"
                text={at(loop.start)}
                set={(start, g) => reshape("Set loop start", (l) => ({ ...l, start }), g)}
              />
              <WaveHandle
                scale={scale}
                frame={loop.end}
                side="left"
                colour="var(--leaf)"
                label="Loop end"
                text={at(loop.end)}
                set={(end, g) => reshape("Set loop end", (l) => ({ ...l, end }), g)}
              />
            </>
          )}
        </>
      )}
    </WaveView>
  );
}
