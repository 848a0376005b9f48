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
import { crossings } from "./crossings";
import { slid, withEdges } from "./edges";
import { heardWave } from "./heard-wave";
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

/** Pixels between two lines of a hatching. */
const HATCH = 8;
/** Pixels of a pattern for each on the sheet. */
const SHARP = 2;

/** Patterns of hatchings by way and colour: a pattern is filled much faster than its lines are drawn. */
const patterns = new Map<string, CanvasPattern | null>();

function hatching(pen: CanvasRenderingContext2D, way: 1 | -1, colours: Colours): CanvasPattern | null {
  const key = `${way} ${colours.rule}`;
  let pattern = patterns.get(key);
  if (pattern === undefined) {
    const tile = document.createElement("canvas");
    tile.width = HATCH * SHARP;
    tile.height = HATCH * SHARP;
    const lines = tile.getContext("2d");
    if (lines) {
      lines.scale(SHARP, SHARP);
      lines.strokeStyle = colours.rule;
      lines.beginPath();
      for (const at of [-HATCH, 0, HATCH]) {
        lines.moveTo(at, way === 1 ? HATCH : 0);
        lines.lineTo(at + HATCH, way === 1 ? 0 : HATCH);
      }
      lines.stroke();
    }
    pattern = pen.createPattern(tile, "repeat");
    pattern?.setTransform(new DOMMatrix().scale(1 / SHARP));
    patterns.set(key, pattern);
  }
  return pattern;
}

/** Hatches a loop, as a section is on a drawing: one way while the key is held, the other way after. */
function hatch(
  pen: CanvasRenderingContext2D,
  { x, width, height }: WaveScale,
  { start, end }: Loop,
  way: 1 | -1,
  colours: Colours,
): void {
  const left = Math.max(0, x(start));
  const right = Math.min(width, x(end));
  if (right <= left) return;
  pen.save();
  pen.beginPath();
  pen.rect(left, 0, right - left, height);
  pen.clip();
  pen.fillStyle = colours.ground;
  pen.fillRect(left, 0, right - left, height);
  // Its lines belong to the sheet, so that they stay where they are while a flag moves.
  pen.fillStyle = hatching(pen, way, colours) ?? colours.ground;
  pen.fillRect(left, 0, right - left, height);
  pen.restore();
}

/** Says over the wave when a loop is heard, where there is room for it. */
function nameLoop(
  pen: CanvasRenderingContext2D,
  { x, width, height }: WaveScale,
  { start, end }: Loop,
  text: string,
  colours: Colours,
): void {
  const left = Math.max(0, x(start));
  if (Math.min(width, x(end)) - left < 84) return;
  pen.font = '11px "Instrument Sans Variable", sans-serif';
  const wide = pen.measureText(text).width;
  pen.fillStyle = colours.sheet;
  pen.fillRect(left + 14, height - 18, wide + 8, 15);
  pen.fillStyle = colours["ink-soft"];
  pen.fillText(text, left + 18, height - 7);
}

/** The crossfade's slopes: what goes out and, dashed, what lies beyond the loop and comes in. */
function drawCrossings(pen: CanvasRenderingContext2D, { x, height }: WaveScale, loop: Loop, colours: Colours): void {
  pen.fillStyle = colours["tint-cobalt"];
  pen.strokeStyle = colours.cobalt;
  const line = (from: number, to: number) => {
    pen.beginPath();
    pen.moveTo(x(from), height);
    pen.lineTo(x(to), 0);
    pen.stroke();
  };
  for (const { from, to, beyond } of crossings(loop)) {
    pen.beginPath();
    pen.moveTo(x(from), height);
    pen.lineTo(x(to), 0);
    pen.lineTo(x(to), height);
    pen.fill();
    line(from, to);
    pen.setLineDash([3, 3]);
    line(beyond.from, beyond.to);
    pen.setLineDash([]);
  }
}

/** Draws over the sample's wave what is heard of it in the loop: crossfaded, and evened out. */
function drawHeard(
  pen: CanvasRenderingContext2D,
  scale: WaveScale,
  loop: Loop,
  samples: Float32Array,
  colours: Colours,
  gain: number,
): void {
  const { x, width, height } = scale;
  const middle = height / 2;
  const reach = (middle - 3) * gain;
  const pixels = (frames: number) => Math.min(8192, frames, Math.round(x(frames) - x(0)));
  for (const { from, to, low, high } of heardWave(samples, loop, pixels)) {
    const [left, right] = [x(from), x(to)];
    if (right < 0 || left > width) continue;
    pen.save();
    pen.beginPath();
    pen.rect(left, 0, right - left, height);
    pen.clip();
    hatch(pen, scale, loop, 1, colours);
    drawCrossings(pen, scale, loop, colours);
    pen.fillStyle = colours.ink;
    pen.strokeStyle = colours.ink;
    const step = (right - left) / low.length;
    if (low.length === to - from) {
      pen.lineWidth = 1.3;
      pen.beginPath();
      for (let c = 0; c < low.length; c++) pen.lineTo(left + c * step, middle - (low[c] as number) * reach);
      pen.lineTo(right, middle - (samples[to] ?? 0) * reach);
      pen.stroke();
      pen.restore();
      continue;
    }
    for (let c = 0; c < low.length; c++) {
      const top = middle - (high[c] as number) * reach;
      const tall = ((high[c] as number) - (low[c] as number)) * reach;
      pen.fillRect(left + c * step, top, step, Math.max(0.7, tall));
    }
    pen.restore();
  }
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
