import { useEffect, useRef } from "react";
import { useAudition } from "../state/audio-queries";
import type { WaveScale } from "./wave-scale";
import { type Span, settleSpan } from "./wave-span";

interface PlayheadProps {
  readonly sha: string;
  readonly scale: WaveScale;
  readonly span: Span;
  readonly frames: number;
  /** Moves the view so that the playhead stays in it. */
  readonly onSpan: (span: Span) => void;
}

/** A line where the sound is being heard; the view follows it page by page. */
export function Playhead({ sha, scale, span, frames, onSpan }: PlayheadProps) {
  const playing = useAudition((a) => (a.playing?.sha === sha ? a.playing : null));
  const line = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!playing) return;
    let handle = 0;
    const move = () => {
      const passed = ((performance.now() - playing.started) / 1000) * playing.rate;
      const frame = playing.from + (playing.loop > 0 ? passed % playing.loop : passed);
      if (line.current) line.current.style.transform = `translateX(${scale.x(frame)}px)`;
      const length = span.to - span.from;
      if (frame > span.to && frame < span.to + length * 0.5 && span.to < frames) {
        onSpan(settleSpan({ from: frame - length * 0.1, to: frame + length * 0.9 }, frames));
      }
      handle = requestAnimationFrame(move);
    };
    move();
    return () => cancelAnimationFrame(handle);
  }, [playing, scale, span, frames, onSpan]);
  if (!playing) return null;
  return <div ref={line} data-testid="playhead" className="absolute inset-y-0 left-0 w-[2px] bg-leaf" />;
}
