import { useCallback, useMemo } from "react";
import { cycleOf, MOST_CYCLES } from "../../core/dsp";
import type { Unit } from "../../core/instrument";
import { formatNumber } from "../../core/params";
import type { ParamValues } from "../../core/units";
import { useWave } from "../state/audio-queries";
import { type Draw, Drawing } from "../widgets/Drawing";
import { PlotHandle } from "./PlotHandle";

/** Cycles that are drawn behind the one that is heard, at the most. */
const MOST_BEHIND = 24;

/** The cycle that is heard, over the others of its sample; the handle moves from one to the next. */
export function WavetablePlot({ address, unit }: { address: string; unit: Unit }) {
  const wave = useWave(unit.sample ?? null, true);
  const values = wave.data?.close?.values;
  const position = Number(unit.params.position);
  const cycle = values ? cycleOf(values.length, Number(unit.params.cycleLength)) : 0;
  const count = values ? Math.min(MOST_CYCLES, Math.max(1, Math.floor(values.length / cycle))) : 0;
  const most = useMemo(
    () => values?.subarray(0, count * cycle).reduce((a, v) => Math.max(a, Math.abs(v)), 1e-6) ?? 1,
    [values, count, cycle],
  );
  const stepped = unit.params.interpolation === "stepped";
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      pen.fillStyle = colours.rule;
      pen.fillRect(0, Math.round(height / 2), width, 1);
      if (!values) {
        pen.fillStyle = colours["ink-soft"];
        pen.font = '13px "Instrument Sans Variable", sans-serif';
        pen.fillText(unit.sample ? "the sample is read …" : "no sample yet", 12, 22);
        return;
      }
      const at = (c: number, x: number): number => values[c * cycle + Math.min(cycle - 1, Math.floor(x * cycle))] ?? 0;
      const line = (f: (x: number) => number): void => {
        pen.beginPath();
        for (let x = 0; x <= width; x += 2) pen.lineTo(x, height / 2 - (f(x / width) / most) * (height / 2 - 12));
        pen.stroke();
      };
      pen.strokeStyle = colours["rule-strong"];
      pen.lineWidth = 1;
      const every = Math.max(1, Math.ceil(count / MOST_BEHIND));
      for (let c = 0; c < count; c += every) line((x) => at(c, x));
      const place = position * (count - 1);
      const first = stepped ? Math.round(place) : Math.floor(place);
      const t = stepped ? 0 : place - first;
      pen.strokeStyle = colours.ink;
      pen.lineWidth = 2;
      line((x) => at(first, x) * (1 - t) + (t > 0 ? at(first + 1, x) * t : 0));
      pen.fillStyle = colours["ink-faint"];
      pen.font = '10px "Spline Sans Mono Variable", monospace';
      pen.fillText(`cycle ${(place + 1).toFixed(1)} of ${count} · ${cycle} frames`, 4, height - 4);
    },
    [values, cycle, count, most, position, stepped, unit.sample],
  );
  return (
    <Drawing
      draw={draw}
      label={`The cycle that is heard: ${formatNumber("percent", position)} of the way through ${count}`}
      className="relative min-h-[110px] w-full flex-1"
    >
      <PlotHandle
        label={`Position ${formatNumber("percent", position)}`}
        help="Left and right move it from cycle to cycle."
        address={address}
        sign="w"
        x={position}
        y={0.5}
        from={{ position }}
        drag={(from, across) => ({ position: from.position + across })}
        step={(across, _up, fine, other): ParamValues | null =>
          other || across === 0 ? null : { position: position + across * (fine ? 0.002 : 0.01) }
        }
      />
    </Drawing>
  );
}
