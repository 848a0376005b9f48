import { memo, useMemo } from "react";
import type { Loop } from "../../../core/instrument";
import { type Command, useCommands } from "../../state/commands";
import { setView, useView } from "../../state/view";
import { WordMenu } from "../../widgets/CommandMenu";
import { type Span, settleSpan, spanAround } from "../../widgets/wave-span";

interface ZoomMenuProps {
  readonly loop: Loop | null;
  readonly frames: number;
  readonly rate: number;
  readonly stereo: boolean;
  readonly onSpan: (span: Span) => void;
}

const CHANNELS = [
  { id: "sum", label: "Both channels together" },
  { id: "left", label: "The left channel" },
  { id: "right", label: "The right channel" },
] as const;

/** Seconds around the seam that are shown. */
const SEAM = 0.02;

/** Shows the sample, the loop, its ends, or single samples of them. */
export const ZoomMenu = memo(function ZoomMenu({ loop, frames, rate, stereo, onSpan }: ZoomMenuProps) {
  const channel = useView((v) => v.loopChannel);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what they do is asked when they are done
  const commands = useMemo<readonly Command[]>(() => {
    const without = () => (loop ? null : "there is no loop");
    const around = (frame: number, seconds: number) =>
      onSpan(settleSpan({ from: frame - seconds * rate, to: frame + seconds * rate }, frames));
    return [
      { id: "zoom-sample", label: "The whole sample", chords: ["Alt+W"], run: () => onSpan({ from: 0, to: frames }) },
      {
        id: "zoom-loop",
        label: "The loop and a little around it",
        chords: ["Alt+L"],
        why: without,
        run: () => loop && onSpan(spanAround(loop.start, loop.end, frames)),
      },
      {
        id: "zoom-end",
        label: "The loop’s end, where the seam is",
        chords: ["Alt+E"],
        why: without,
        run: () => loop && around(loop.end, SEAM),
      },
      { id: "zoom-start", label: "The loop’s start", why: without, run: () => loop && around(loop.start, SEAM) },
      {
        id: "zoom-frames",
        label: "Single samples at the loop’s end",
        why: without,
        run: () => loop && around(loop.end, 60 / rate),
      },
      ...CHANNELS.map(({ id, label }) => ({
        id: `channel-${id}`,
        label: channel === id ? `${label} (shown)` : label,
        why: () => (stereo ? null : "it has one channel"),
        run: () => setView({ loopChannel: id }),
      })),
    ];
  }, [loop, frames, rate, stereo, channel]);
  useCommands("What the wave shows", commands);
  return <WordMenu word="Show" commands={commands} />;
});
