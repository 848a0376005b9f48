import { useCallback, useMemo } from "react";
import type { Zone } from "../../../core/instrument";
import { type Draw, Drawing } from "../../widgets/Drawing";
import type { Span } from "../../widgets/wave-span";
import { coursePicture, timeScale } from "./course";

const EDGE = 8;

/** The course of the playback on the wave's own axis: to the right through the sound, down through time. */
export function Course({ zone, span }: { zone: Zone; span: Span }) {
  const picture = useMemo(() => coursePicture(zone), [zone]);
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
        pen.fillText("let go", 8, at - 4);
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
      pen.fillText("the course: right through the sound, down through time", width - 8, 14);
      pen.textAlign = "left";
    },
    [picture, span],
  );
  return (
    <Drawing
      draw={draw}
      label="The course of the playback: which part is played how often"
      className="h-[clamp(60px,12vh,96px)] shrink-0 border-rule border-t bg-ground"
    />
  );
}
