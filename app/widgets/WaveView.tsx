import { type PointerEvent, type ReactNode, useCallback, useMemo, useRef, useState } from "react";
import { useCloseWave, type Wave } from "../state/audio-queries";
import { type Colours, type Draw, Drawing } from "./Drawing";
import { Playhead } from "./Playhead";
import { useDrag } from "./use-drag";
import { useSize } from "./use-size";
import { useWheel } from "./use-wheel";
import { drawWave, fillGain, fillGainOf, WaveImage } from "./wave-draw";
import { type Beats, drawBeats, drawRuler, type Ruler, rulersOf } from "./wave-ruler";
import type { WaveScale } from "./wave-scale";
import { type Span, settleSpan, zoomSpan } from "./wave-span";

interface WaveViewProps {
  /** The stored sound that is shown, so that the playhead knows it. */
  readonly sha: string;
  readonly wave: Wave;
  readonly rate: number;
  readonly span: Span;
  readonly onSpan: (span: Span) => void;
  /** Painted below and above the waveform; `gain` is what it is enlarged by. */
  readonly under?: (pen: CanvasRenderingContext2D, scale: WaveScale, colours: Colours) => void;
  readonly over?: (pen: CanvasRenderingContext2D, scale: WaveScale, colours: Colours, gain: number) => void;
  /** Handles and labels over the drawing. */
  readonly children?: (scale: WaveScale) => ReactNode;
  readonly onPick?: (frame: number, event: PointerEvent) => void;
  readonly label: string;
  /** A grid of beats: the ruler counts them in bars beside the seconds. */
  readonly beats?: Beats | null;
  /** What the ruler counts; seconds where nothing is said. */
  readonly ruler?: Ruler | undefined;
  /** Draws the sound, or what is shown of it, as tall as its box, whatever its level. */
  readonly fill?: boolean | "shown";
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
  ruler,
  fill,
}: WaveViewProps) {
  const [box, size] = useSize<HTMLDivElement>();
  const wave = useCloseWave(sha, whole, span);
  const { frames } = wave.peaks;
  const top = rulersOf(beats);
  const scale = useMemo<WaveScale>(() => {
    const length = span.to - span.from;
    return {
      frames,
      width: size.width,
      height: Math.max(1, size.height - top - OVERVIEW),
      x: (frame) => ((frame - span.from) / length) * size.width,
      frame: (x) => span.from + (x / Math.max(1, size.width)) * length,
    };
  }, [span, size, top, frames]);

  const wholeGain = useMemo(() => (fill ? fillGain(wave) : 1), [fill, wave]);
  const gain = useMemo(() => (fill === "shown" ? fillGainOf(wave, span) : wholeGain), [fill, wave, span, wholeGain]);
  const taller = gain / wholeGain;
  const [image] = useState(() => new WaveImage());
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      drawRuler(pen, width, span, ruler ?? { size: rate, origin: 0, suffix: " s" }, colours);
      if (beats) drawBeats(pen, width, height, span, rate, colours, beats);
      pen.save();
      pen.translate(0, top);
      under?.(pen, scale, colours);
      image.draw(pen, width, height - top, span, wave, colours, gain);
      over?.(pen, scale, colours, gain);
      pen.restore();
    },
    [image, span, rate, wave, under, over, scale, gain, beats, ruler, top],
  );

  const surface = useRef<HTMLDivElement>(null);
  useWheel(surface, (event) => {
    event.preventDefault();
    const bounds = surface.current?.getBoundingClientRect();
    if (!bounds) return;
    const at = (event.clientX - bounds.left) / bounds.width;
    if (event.ctrlKey || event.metaKey || event.altKey)
      onSpan(zoomSpan(span, 1.25 ** (-event.deltaY / 100), at, frames));
    else {
      const by = ((event.deltaX || event.deltaY) / bounds.width) * (span.to - span.from);
      onSpan(settleSpan({ from: span.from + by, to: span.to + by }, frames));
    }
  });
  const drag = useDrag<Span>({
    slack: 4,
    start: (event) => (event.target instanceof HTMLElement && event.target.closest("[data-handle]") ? null : span),
    move: ({ data, dx }) => {
      const by = (dx / size.width) * (data.to - data.from);
      onSpan(settleSpan({ from: data.from - by, to: data.to - by }, frames));
    },
    click: (_, event) => {
      const bounds = event.currentTarget.getBoundingClientRect();
      onPick?.(scale.frame(event.clientX - bounds.left), event);
    },
    giveUp: onSpan,
  });
  return (
    <div ref={box} className="flex min-h-0 flex-1 flex-col">
      <div ref={surface} className="relative min-h-0 flex-1 touch-none" {...drag}>
        <Drawing draw={draw} label={label} className="h-full w-full" />
        <div className="pointer-events-none absolute inset-x-0 bottom-0 overflow-hidden" style={{ top }}>
          {taller >= 1.05 && (
            <span className="num absolute top-1 left-1/2 -translate-x-1/2 bg-sheet px-1 text-[11px] text-ink-soft">
              {taller < 10 ? taller.toFixed(1) : Math.round(taller)} ×
            </span>
          )}
          {children?.(scale)}
          <Playhead sha={sha} scale={scale} span={span} frames={frames} onSpan={onSpan} />
        </div>
      </div>
      <Overview wave={wave} span={span} onSpan={onSpan} gain={wholeGain} />
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
  const go = (event: PointerEvent<HTMLElement>) => {
    const bounds = event.currentTarget.getBoundingClientRect();
    const centre = ((event.clientX - bounds.left) / bounds.width) * frames;
    const half = (span.to - span.from) / 2;
    onSpan(settleSpan({ from: centre - half, to: centre + half }, frames));
  };
  const drag = useDrag<Span>({
    start: (event) => {
      go(event);
      return span;
    },
    move: (_, event) => go(event),
    giveUp: onSpan,
  });
  return (
    <div className="relative shrink-0 touch-none border-rule border-t bg-ground" style={{ height: OVERVIEW }} {...drag}>
      <Drawing draw={draw} label="The whole sound; the frame marks what is shown above" className="h-full w-full" />
      <div
        className="pointer-events-none absolute inset-y-0 min-w-[3px] border-2 border-cobalt"
        style={{ left: `${(span.from / frames) * 100}%`, width: `${((span.to - span.from) / frames) * 100}%` }}
      />
    </div>
  );
}
