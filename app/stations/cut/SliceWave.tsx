import { useCallback } from "react";
import type { FoundSlice } from "../../../core/analysis";
import { nameOfNote, zeroCrossing } from "../../../core/audio";
import { noteOfSlice } from "../../../core/formats";
import { changeSlices, type Search, type Slice, type Take } from "../../../core/instrument";
import { formatNumber, plural } from "../../../core/params";
import type { Wave } from "../../state/audio-queries";
import { session } from "../../state/session";
import { useView } from "../../state/view";
import type { Colours } from "../../widgets/Drawing";
import { WaveHandle } from "../../widgets/WaveHandle";
import { WaveView } from "../../widgets/WaveView";
import { paintFlaws } from "../../widgets/wave-flaws";
import type { WaveScale } from "../../widgets/wave-scale";
import type { Span } from "../../widgets/wave-span";
import { audioWorker } from "../../workers/audio-worker";
import { moved } from "./slice-edits";

/** How far a dragged edge looks for a zero crossing, in frames. */
const SNAP = 512;

interface SliceWaveProps {
  readonly take: Take;
  readonly wave: Wave;
  readonly span: Span;
  readonly onSpan: (span: Span) => void;
  /** What is being found while the threshold moves; null shows the take's own slices. */
  readonly preview: readonly FoundSlice[] | null;
  readonly search: Search;
  /** The frame that was clicked last. */
  readonly cursor: number | null;
  readonly onCursor: (frame: number) => void;
  readonly onSelect: (id: string, more: "" | "one" | "range") => void;
}

/** The take's waveform with its slices; the edges of a selected one can be dragged, its neighbours stay. */
export function SliceWave({ take, wave, span, onSpan, search, preview, cursor, onCursor, onSelect }: SliceWaveProps) {
  const sliceIds = useView((v) => v.sliceIds);
  const snap = useView((v) => v.snap);
  const under = useCallback(
    (pen: CanvasRenderingContext2D, scale: WaveScale, colours: Colours) => {
      const visible = (s: FoundSlice) => s.end > span.from && s.start < span.to;
      if (preview) {
        pen.fillStyle = colours["tint-cobalt"];
        for (const s of preview.filter(visible))
          pen.fillRect(scale.x(s.start), 0, Math.max(1, scale.x(s.end) - scale.x(s.start)), scale.height);
        return;
      }
      for (const s of take.slices.filter(visible)) paintSlice(pen, scale, colours, s, sliceIds.has(s.id));
    },
    [preview, take.slices, sliceIds, span],
  );
  const pick = (frame: number, event: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => {
    const hit = take.slices.findLast((s) => frame >= s.start && frame < s.end);
    onCursor(Math.round(frame));
    if (hit) onSelect(hit.id, event.shiftKey ? "range" : event.ctrlKey || event.metaKey ? "one" : "");
  };
  const selected = preview ? [] : take.slices.filter((s) => sliceIds.has(s.id)).slice(0, 40);
  const at = (frame: number) => formatNumber("seconds", frame / take.rate);
  const move = (id: string, edge: "start" | "end") => (frame: number, gesture: string) =>
    session.commit(
      changeSlices(take.id, new Set([id]), `Move slice ${edge}`, (s) => moved(s, edge, frame)),
      gesture,
    );
  /** A dragged edge settles at the nearest zero crossing, in the same step as the drag. */
  const settle = (id: string, edge: "start" | "end") => async (frame: number, gesture: string) => {
    if (!snap) return;
    const from = Math.max(0, frame - SNAP);
    const samples = await audioWorker().window(take.sha, from, frame + SNAP);
    move(id, edge)(from + zeroCrossing(samples, frame - from, SNAP - 2), gesture);
  };
  const over = useCallback(
    (pen: CanvasRenderingContext2D, scale: WaveScale, colours: Colours) => {
      paintFlaws(pen, scale, colours, { clips: take.clips, gaps: take.gaps });
      if (cursor === null) return;
      pen.fillStyle = colours["ink-soft"];
      for (let y = 0; y < scale.height; y += 6) pen.fillRect(Math.round(scale.x(cursor)), y, 1, 3);
    },
    [cursor, take.clips, take.gaps],
  );
  return (
    <WaveView
      sha={take.sha}
      wave={wave}
      rate={take.rate}
      span={span}
      onSpan={onSpan}
      under={under}
      over={over}
      beats={search.by === "grid" ? search : null}
      onPick={pick}
      label={`Waveform of ${take.name} with ${plural(take.slices.length, "slice")}`}
    >
      {(scale) =>
        selected.map((s) => (
          <div key={s.id} className="contents">
            <WaveHandle
              scale={scale}
              frame={s.start}
              side="right"
              label="Start of the slice"
              text={at(s.start)}
              set={move(s.id, "start")}
              settle={(frame, gesture) => void settle(s.id, "start")(frame, gesture)}
            />
            <WaveHandle
              scale={scale}
              frame={s.end}
              side="left"
              label="End of the slice"
              text={at(s.end)}
              set={move(s.id, "end")}
              settle={(frame, gesture) => void settle(s.id, "end")(frame, gesture)}
              top={false}
            />
          </div>
        ))
      }
    </WaveView>
  );
}

/** No label has room in fewer pixels: of hundreds of slices none need be measured. */
const NARROWEST_LABEL = 20;

function paintSlice(
  pen: CanvasRenderingContext2D,
  scale: WaveScale,
  colours: Colours,
  slice: Slice,
  selected: boolean,
): void {
  const x = scale.x(slice.start);
  const width = Math.max(1, scale.x(slice.end) - x);
  pen.fillStyle = selected ? colours["tint-cobalt"] : slice.keep ? colours["tint-leaf"] : colours.well;
  pen.fillRect(x, 0, width, scale.height);
  pen.fillStyle = selected ? colours.cobalt : slice.keep ? colours.leaf : colours["rule-strong"];
  // Of many narrow slices the lines would be all that is seen.
  if (width >= 4 || selected) pen.fillRect(x, 0, 1, scale.height);
  if (!slice.keep) {
    pen.strokeStyle = colours.rule;
    pen.beginPath();
    for (let d = 8; d < width + scale.height && d < 4000; d += 10) {
      pen.moveTo(x + Math.min(d, width), Math.max(0, d - width));
      pen.lineTo(x + Math.max(0, d - scale.height), Math.min(d, scale.height));
    }
    pen.stroke();
  }
  const note = noteOfSlice(slice);
  if (width < NARROWEST_LABEL || note === null || !slice.keep) return;
  const label = nameOfNote(note);
  pen.font = '11px "Spline Sans Mono Variable", monospace';
  if (pen.measureText(label).width + 8 < width) {
    pen.fillStyle = colours.ink;
    pen.fillText(label, x + 5, 13);
  }
}
