import { useCallback } from "react";
import type { Unit } from "../../core/instrument";
import { formatNumber } from "../../core/params";
import type { ParamValues } from "../../core/units";
import { useWave } from "../state/audio-queries";
import { type Draw, Drawing } from "../widgets/Drawing";
import { drawWave, fillGain } from "../widgets/wave-draw";
import { PlotHandle } from "./PlotHandle";

/** The wave of the sample that is taken to pieces, and from where in it grains are taken: the handle moves the place, and up and down how far around it. */
export function GrainsPlot({ address, unit }: { address: string; unit: Unit }) {
  const wave = useWave(unit.sample ?? null);
  const data = wave.data;
  const position = Number(unit.params.position);
  const around = Number(unit.params.positionJitter);
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      const from = Math.max(0, position - around / 2);
      const to = Math.min(1, position + around / 2);
      pen.fillStyle = colours["tint-cobalt"];
      pen.fillRect(from * width, 0, Math.max(1, (to - from) * width), height);
      if (data) drawWave(pen, width, height, { from: 0, to: data.peaks.frames }, data, colours, fillGain(data));
      pen.fillStyle = colours.cobalt;
      pen.fillRect(Math.round(position * width), 0, 1, height);
      if (!data) {
        pen.fillStyle = colours["ink-soft"];
        pen.font = '13px "Instrument Sans Variable", sans-serif';
        pen.fillText(unit.sample ? "the sample is read …" : "no sample yet", 12, 22);
      }
    },
    [data, position, around, unit.sample],
  );
  return (
    <Drawing
      draw={draw}
      label={`The sample, and where in it grains are taken: around ${formatNumber("percent", position)}`}
      className="relative min-h-[110px] w-full flex-1"
    >
      <PlotHandle
        label={`Position ${formatNumber("percent", position)}, jitter ${formatNumber("percent", around)}`}
        help="Arrows move it: across the position, up and down how far around it."
        address={address}
        sign="g"
        x={position}
        y={1 - around}
        from={{ position, around }}
        drag={(from, across, down) => ({ position: from.position + across, positionJitter: from.around - down })}
        step={(across, up, fine, other): ParamValues | null => {
          if (other) return null;
          const by = fine ? 0.002 : 0.01;
          return across !== 0 ? { position: position + across * by } : { positionJitter: around + up * by };
        }}
      />
    </Drawing>
  );
}
