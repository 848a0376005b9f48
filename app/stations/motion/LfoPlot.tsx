import { useCallback } from "react";
import { type LfoShape, lfoAt } from "../../../core/dsp";
import type { Unit } from "../../../core/instrument";
import { type Draw, Drawing } from "../../widgets/Drawing";

const SECONDS = 2;

/** Two seconds of an LFO from the beginning of a note. */
export function LfoPlot({ unit }: { unit: Unit }) {
  const shape = String(unit.params.shape) as LfoShape;
  const rate = Number(unit.params.rate);
  const fade = Number(unit.params.fade);
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      pen.fillStyle = colours.rule;
      pen.fillRect(0, height / 2, width, 1);
      pen.font = '10px "Spline Sans Mono Variable", monospace';
      pen.fillStyle = colours["ink-faint"];
      for (let s = 0.5; s < SECONDS; s += 0.5) {
        pen.fillRect((s / SECONDS) * width, height - 5, 1, 5);
        pen.fillText(`${s} s`, (s / SECONDS) * width + 3, height - 4);
      }
      pen.beginPath();
      for (let x = 0; x <= width; x += 0.5) {
        const time = (x / width) * SECONDS;
        const depth = fade > 0 ? Math.min(1, time / fade) : 1;
        pen.lineTo(x, height / 2 - depth * lfoAt(shape, time * rate) * (height / 2 - 18));
      }
      pen.strokeStyle = colours.plum;
      pen.lineWidth = 2;
      pen.stroke();
    },
    [shape, rate, fade],
  );
  return <Drawing draw={draw} label={`${shape} at ${rate} Hz`} className="mt-2 h-[147px] w-full" />;
}
