import { useCallback, useMemo } from "react";
import { useStore } from "zustand";
import { listZones, type Zone } from "../../../core/instrument";
import { engine } from "../../state/engine";
import { useHeard } from "../../state/use-heard";
import { type Draw, Drawing } from "../../widgets/Drawing";
import { useCalm } from "../../widgets/use-calm";
import { useSize } from "../../widgets/use-size";
import type { Span } from "../../widgets/wave-span";
import { type CoursePicture, coursePicture, timeScale } from "./course";
import { CourseFollower } from "./course-place";

const EDGE = 8;
/** Milliseconds between two pictures while a flag is dragged. */
const CALM = 80;

interface CourseProps {
  readonly zone: Zone;
  readonly span: Span;
}

/** The course of the playback on the wave's own axis: to the right through the sound, down through time. */
export function Course({ zone, span }: CourseProps) {
  const calm = useCalm(zone, CALM);
  const picture = useMemo(() => coursePicture(calm), [calm]);
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      const length = span.to - span.from;
      const x = (frame: number) => ((frame - span.from) / length) * width;
      const place = timeScale(picture);
      const y = (at: number) => EDGE + place(at) * (height - 2 * EDGE);
      pen.font = '11px "Instrument Sans Variable", sans-serif';
      if (picture.letGo !== null) {
        const at = Math.round(y(picture.letGo)) + 0.5;
        pen.strokeStyle = colours.ochre;
        pen.setLineDash([5, 4]);
        pen.beginPath();
        pen.moveTo(0, at);
        pen.lineTo(width, at);
        pen.stroke();
        pen.setLineDash([]);
        pen.fillStyle = colours.ochre;
        pen.fillText("release", 8, at - 4);
      }
      for (const line of picture.lines) {
        pen.strokeStyle = line.kind === "jump" ? colours["ink-faint"] : colours.ink;
        pen.lineWidth = line.kind === "jump" ? 1 : 2;
        pen.setLineDash(line.kind === "jump" ? [2, 3] : line.kind === "after" ? [7, 3] : []);
        pen.beginPath();
        pen.moveTo(x(line.from), y(line.at));
        pen.lineTo(x(line.to), y(line.until));
        pen.stroke();
      }
      pen.setLineDash([]);
      pen.lineWidth = 1;
      pen.fillStyle = colours["ink-soft"];
      pen.textAlign = "right";
      pen.fillText("playback path: across through the sound, down through time", width - 8, 14);
      pen.textAlign = "left";
    },
    [picture, span],
  );
  const [box, size] = useSize<HTMLDivElement>();
  return (
    <div
      ref={box}
      className="relative h-[clamp(60px,12vh,96px)] shrink-0 overflow-hidden border-rule border-t bg-ground"
    >
      <Drawing draw={draw} label="Playback path: which part is played how often" className="h-full w-full" />
      <CourseDot zone={zone} span={span} picture={picture} width={size.width} height={size.height} />
    </div>
  );
}

/** Where the playback is on its course now. */
function CourseDot({
  zone,
  span,
  picture,
  width,
  height,
}: CourseProps & { picture: CoursePicture; width: number; height: number }) {
  const own = useHeard((i) => listZones(i).findIndex((z) => z.id === zone.id));
  const frame = useStore(engine.store, (s) => s.cursors.find((c) => c.zone === own)?.frame ?? null);
  const held = useStore(engine.store, (s) => s.held.size > 0);
  const follower = useMemo(() => new CourseFollower(picture), [picture]);
  const place = useMemo(() => timeScale(picture), [picture]);
  const at = frame === null ? null : follower.at(frame, held);
  if (frame === null || at === null) return null;
  const x = ((frame - span.from) / (span.to - span.from)) * width;
  const y = EDGE + place(at) * (height - 2 * EDGE);
  return (
    <span
      aria-hidden
      className="absolute top-0 left-0 size-2.5 rounded-full bg-leaf"
      style={{ transform: `translate(${x - 5}px, ${y - 5}px)` }}
    />
  );
}
