import { useCallback } from "react";
import type { Unit } from "../../core/instrument";
import { type Draw, Drawing } from "../widgets/Drawing";
import { cycleOf, harmonicsOf } from "./oscillator-wave";

const HARMONICS = 48;
const FLOOR = -60;
const FOOT = 14;
const MONO = '10px "Spline Sans Mono Variable", monospace';

/** An oscillator's wave, two cycles of it, and under it its harmonics: both follow every setting. */
export function OscillatorPlot({ unit }: { unit: Unit }) {
  const { wave, into, blend, width, bend, fed, sync, above } = unit.params;
  const draw = useCallback<Draw>(
    (pen, w, h, colours) => {
      const cycle = cycleOf({
        wave: String(wave),
        into: String(into),
        blend: Number(blend),
        width: Number(width),
        bend: Number(bend),
        fed: Number(fed),
        ratio: sync === "on" ? 2 ** (Number(above) / 12) : 1,
      });
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, w, h);
      const half = Math.round(h * 0.5);
      pen.fillStyle = colours.rule;
      pen.fillRect(0, Math.round(half / 2), w, 1);
      pen.fillRect(Math.round(w / 2), 0, 1, half);
      pen.fillRect(0, half, w, 1);
      const most = cycle.reduce((a, y) => Math.max(a, Math.abs(y)), 1);
      pen.beginPath();
      for (let x = 0; x <= w; x++) {
        const y = cycle[Math.floor(((2 * x) / w) * cycle.length) % cycle.length] ?? 0;
        pen.lineTo(x, half / 2 - (y / most) * (half / 2 - 6));
      }
      pen.strokeStyle = colours.ink;
      pen.lineWidth = 2;
      pen.stroke();
      pen.font = MONO;
      const foot = h - FOOT;
      for (const level of [-12, -24, -36, -48]) {
        const y = Math.round(foot - (1 - level / FLOOR) * (foot - half - 4));
        pen.fillStyle = colours.rule;
        pen.fillRect(0, y, w, 1);
        pen.fillStyle = colours["ink-faint"];
        pen.fillText(`${level} dB`.replace("-", "−"), 3, y - 2);
      }
      const step = (w - 48) / HARMONICS;
      harmonicsOf(cycle, HARMONICS).forEach((level, i) => {
        const height = Math.max(0, 1 - level / FLOOR) * (foot - half - 4);
        const x = 44 + i * step;
        pen.fillStyle = colours.ink;
        pen.fillRect(
          x,
          foot - Math.min(height, foot - half - 2),
          Math.max(1.5, step * 0.4),
          Math.min(height, foot - half - 2),
        );
        pen.fillStyle = colours["ink-faint"];
        if (i === 0 || (i + 1) % 8 === 0) pen.fillText(String(i + 1), x, h - 3);
      });
    },
    [wave, into, blend, width, bend, fed, sync, above],
  );
  return (
    <Drawing
      draw={draw}
      label={`Two cycles of ${unit.name}, and its first ${HARMONICS} harmonics`}
      className="min-h-[110px] w-full flex-1"
    />
  );
}
