import { type PointerEvent, type ReactNode, useCallback, useMemo, useRef, type WheelEvent } from "react";
import { columnPeaks } from "../../core/audio";
import { useCloseWave, type Wave } from "../state/audio-queries";
import { type Colours, type Draw, Drawing } from "./Drawing";
import { Playhead } from "./Playhead";
import { useSize } from "./use-size";
import { type Beats, drawBeats, drawRuler, rulersOf } from "./wave-ruler";
import { type Span, settleSpan, zoomSpan } from "./wave-span";

/** Turns frames into places on the screen and back. */
export interface WaveScale {
  readonly x: (frame: number) => number;
  readonly frame: (x: number) => number;
  readonly width: number;
  readonly height: number;
}

interface WaveViewProps {
  /** The stored sound that is shown, so that the playhead knows it. */
  readonly sha: string;
  readonly wave: Wave;
  readonly rate: number;
  readonly span: Span;
  readonly onSpan: (span: Span) => void;
  /** Painted below and above the waveform. */
  readonly under?: (pen: CanvasRenderingContext2D, scale: WaveScale, colours: Colours) => void;
  readonly over?: (pen: CanvasRenderingContext2D, scale: WaveScale, colours: Colours) => void;
  /** Handles and labels over the drawing. */
  readonly children?: (scale: WaveScale) => ReactNode;
  readonly onPick?: (frame: number, event: PointerEvent) => void;
  readonly label: string;
  /** A grid of beats: the ruler counts them in bars of four beside the seconds. */
  readonly beats?: Beats | null;
  /** Draws the sound as tall as its box, whatever its level. */
  readonly fill?: boolean;
}

const OVERVIEW = 26;

/** A waveform as a solid ink shape with a time ruler and an overview: wheel scrolls, with Ctrl zooms, drag scrolls. */
export function WaveView({
  sha,
  wave: whole,
  rate,
  span,
  onSpan,
  under,
  over,
  children,
  onPick,
  label,
  beats,
  fill,
}: WaveViewProps) {
  const [box, size] = useSize<HTMLDivElement>();
  const wave = useCloseWave(sha, whole, span);
  const { frames } = wave.peaks;
  const top = rulersOf(beats);
  const scale = useMemo<WaveScale>(() => {
    const length = span.to - span.from;
    return {
      width: size.width,
      height: Math.max(1, size.height - top - OVERVIEW),
      x: (frame) => ((frame - span.from) / length) * size.width,
      frame: (x) => span.from + (x / Math.max(1, size.width)) * length,
    };
  }, [span, size, top]);

  const gain = useMemo(() => (fill ? fillGain(wave) : 1), [fill, wave]);
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      drawRuler(pen, width, span, rate, colours);
      if (beats) drawBeats(pen, width, height, span, rate, colours, beats);
      pen.save();
      pen.translate(0, top);
      under?.(pen, scale, colours);
      drawWave(pen, width, height - top, span, wave, colours, gain);
      over?.(pen, scale, colours);
      pen.restore();
    },
    [span, rate, wave, under, over, scale, gain, beats, top],
  );

  const wheel = (event: WheelEvent) => {
    const bounds = event.currentTarget.getBoundingClientRect();
    const at = (event.clientX - bounds.left) / bounds.width;
    if (event.ctrlKey || event.metaKey || event.altKey)
      onSpan(zoomSpan(span, event.deltaY > 0 ? 0.8 : 1.25, at, frames));
    else {
      const by = ((event.deltaX || event.deltaY) / bounds.width) * (span.to - span.from);
      onSpan(settleSpan({ from: span.from + by, to: span.to + by }, frames));
    }
  };
  const drag = useRef<{ x: number; span: Span; moved: boolean } | null>(null);
  const down = (event: PointerEvent<HTMLDivElement>) => {
    if (event.target instanceof HTMLElement && event.target.closest("[data-handle]")) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, span, moved: false };
  };
  const move = (event: PointerEvent) => {
    const from = drag.current;
    if (!from) return;
    const by = event.clientX - from.x;
    if (!from.moved && Math.abs(by) < 4) return;
    from.moved = true;
    const frame = (by / size.width) * (from.span.to - from.span.from);
    onSpan(settleSpan({ from: from.span.from - frame, to: from.span.to - frame }, frames));
  };
  const up = (event: PointerEvent<HTMLDivElement>) => {
    if (drag.current && !drag.current.moved) {
      const bounds = event.currentTarget.getBoundingClientRect();
      onPick?.(scale.frame(event.clientX - bounds.left), event);
    }
    drag.current = null;
  };
  return (
    <div ref={box} className="flex min-h-0 flex-1 flex-col" onWheel={wheel}>
      <div
        className="relative min-h-0 flex-1 touch-none"
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={() => {
          drag.current = null;
        }}
      >
        <Drawing draw={draw} label={label} className="h-full w-full" />
        <div className="pointer-events-none absolute inset-x-0 bottom-0 overflow-hidden" style={{ top }}>
          {children?.(scale)}
          <Playhead sha={sha} scale={scale} span={span} frames={frames} onSpan={onSpan} />
        </div>
      </div>
      <Overview wave={wave} span={span} onSpan={onSpan} gain={gain} />
    </div>
  );
}

function Overview({
  wave,
  span,
  onSpan,
  gain,
}: {
  wave: Wave;
  span: Span;
  onSpan: (span: Span) => void;
  gain: number;
}) {
  const { frames } = wave.peaks;
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      drawWave(pen, width, height, { from: 0, to: frames }, wave, { ...colours, ink: colours["rule-strong"] }, gain);
    },
    [wave, frames, gain],
  );
  const go = (event: PointerEvent) => {
    if (event.buttons !== 1) return;
    const bounds = event.currentTarget.getBoundingClientRect();
    const centre = ((event.clientX - bounds.left) / bounds.width) * frames;
    const half = (span.to - span.from) / 2;
    onSpan(settleSpan({ from: centre - half, to: centre + half }, frames));
  };
  return (
    <div
      className="relative shrink-0 touch-none border-rule border-t bg-ground"
      style={{ height: OVERVIEW }}
      onPointerDown={go}
      onPointerMove={go}
    >
      <Drawing draw={draw} label="The whole sound; the frame marks what is shown above" className="h-full w-full" />
      <div
        className="pointer-events-none absolute inset-y-0 min-w-[3px] border-2 border-cobalt"
        style={{ left: `${(span.from / frames) * 100}%`, width: `${((span.to - span.from) / frames) * 100}%` }}
      />
    </div>
  );
}

/** The factor that makes a sound fill its box. */
export function fillGain({ peaks }: Wave): number {
  const coarsest = peaks.levels.at(-1) ?? new Float32Array(0);
  const most = coarsest.reduce((m, x) => Math.max(m, Math.abs(x)), 0);
  return most > 1e-5 ? 1 / most : 1;
}

/** Draws a waveform over a box; full scale times `gain` touches the edges. */
export function drawWave(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  span: Span,
  wave: Wave,
  colours: Colours,
  gain = 1,
): void {
  const columns = Math.max(1, Math.floor(width));
  const table = new Float32Array(columns * 2);
  columnPeaks(wave.peaks, span.from, span.to, columns, table, wave.close);
  const middle = height / 2;
  const reach = (middle - 3) * gain;
  pen.strokeStyle = colours.rule;
  pen.beginPath();
  pen.moveTo(0, Math.round(middle) + 0.5);
  pen.lineTo(width, Math.round(middle) + 0.5);
  pen.stroke();
  pen.fillStyle = colours.ink;
  const perColumn = (span.to - span.from) / columns;
  const { close } = wave;
  if (close && perColumn < 0.5) {
    pen.strokeStyle = colours.ink;
    pen.lineWidth = 1.3;
    pen.beginPath();
    for (let i = Math.floor(span.from); i <= Math.ceil(span.to); i++) {
      pen.lineTo((i - span.from) / perColumn, middle - (close.values[i - close.from] ?? 0) * reach);
    }
    pen.stroke();
    pen.lineWidth = 1;
    return;
  }
  for (let c = 0; c < columns; c++) {
    const low = table[2 * c] ?? 0;
    const high = table[2 * c + 1] ?? 0;
    const top = middle - high * reach;
    pen.fillRect(c, top, 1, Math.max(0.7, (high - low) * reach));
  }
}
