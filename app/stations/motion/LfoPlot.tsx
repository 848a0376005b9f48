import { useCallback, useMemo } from "react";
import { type LfoShape, lfoAt } from "../../../core/dsp";
import { curveOf, type Unit } from "../../../core/instrument";
import { beatsOf } from "../../../core/units";
import { type Draw, Drawing } from "../../widgets/Drawing";

const SECONDS = 2;

/** Two seconds of an LFO from the beginning of a note. */
export function LfoPlot({ unit }: { unit: Unit }) {
  const shape = String(unit.params.shape) as LfoShape;
  const beats = beatsOf(String(unit.params.sync));
  // Drawn at 120 beats per minute where it follows the tempo.
  const rate = beats > 0 ? 2 / beats : Number(unit.params.rate);
  const phase = Number(unit.params.phase) / 360;
  const delay = Number(unit.params.delay);
  const line = useMemo(() => {
    const curve = curveOf(unit);
    return { x: curve.map((p) => p.x), y: curve.map((p) => p.y), bend: curve.map((p) => p.bend) };
  }, [unit]);
  const fade = Number(unit.params.fadeIn);
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
        const depth = time < delay ? 0 : fade > 0 ? Math.min(1, (time - delay) / fade) : 1;
        pen.lineTo(x, height / 2 - depth * lfoAt(shape, time * rate + phase, 1, line) * (height / 2 - 18));
      }
      pen.strokeStyle = colours.plum;
      pen.lineWidth = 2;
      pen.stroke();
    },
    [shape, rate, fade, phase, delay, line],
  );
  return <Drawing draw={draw} label={`${shape} at ${rate} Hz`} className="mb-1 h-[92px] w-full shrink-0" />;
}
