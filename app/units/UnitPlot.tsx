import { useCallback } from "react";
import type { Unit } from "../../core/instrument";
import { unitSpec } from "../../core/units";
import { type Colours, type Draw, Drawing } from "../widgets/Drawing";
import { EnvelopePlot } from "../widgets/EnvelopePlot";
import { EqualiserPlot } from "./EqualiserPlot";
import { FilterPlot } from "./FilterPlot";
import { GrainsPlot } from "./GrainsPlot";
import { HallPlot } from "./HallPlot";
import { ImpulsePlot } from "./ImpulsePlot";
import { LevelDot } from "./LevelDot";
import { OscillatorPlot } from "./OscillatorPlot";
import { RowsPlot } from "./RowsPlot";
import { StrikePlot } from "./StrikePlot";
import { pictureOf } from "./unit-picture";
import { WavetablePlot } from "./WavetablePlot";

/** Whether there is something to draw of a unit. */
export const isDrawn = (unit: Unit): boolean => unit.kind === "amp" || pictureOf(unit, 2) !== null;

/** What a unit does, as large as there is room. */
export function UnitPlot({ address, unit }: { address: string; unit: Unit }) {
  if (unit.kind === "amp") return <EnvelopePlot address={address} className="min-h-[110px] flex-1" />;
  if (unit.kind === "filter") return <FilterPlot address={address} unit={unit} />;
  if (unit.kind === "equaliser") return <EqualiserPlot address={address} unit={unit} />;
  if (unit.kind === "hall") return <HallPlot unit={unit} />;
  if (unit.kind === "convolution") return <ImpulsePlot address={address} unit={unit} />;
  if (unit.kind === "wavetable") return <WavetablePlot address={address} unit={unit} />;
  if (unit.kind === "oscillator") return <OscillatorPlot address={address} unit={unit} />;
  if (unit.kind === "strike") return <StrikePlot unit={unit} />;
  if (unit.kind === "grains") return <GrainsPlot address={address} unit={unit} />;
  if (unitSpec(unit.kind).table) return <RowsPlot address={address} unit={unit} />;
  return <Sketch address={address} unit={unit} />;
}

/** Lines at every 12 dB: what comes in from left to right, what goes out upwards. */
function levelGrid(pen: CanvasRenderingContext2D, width: number, height: number, colours: Colours): void {
  pen.font = '10px "Spline Sans Mono Variable", monospace';
  for (const db of [-48, -36, -24, -12]) {
    const share = (db + 60) / 60;
    const y = height - 8 - share * (height - 16);
    pen.fillStyle = colours.rule;
    pen.fillRect(Math.round(share * width), 0, 1, height);
    pen.fillRect(0, Math.round(y), width, 1);
    pen.fillStyle = colours["ink-faint"];
    pen.fillText(`${db} in`.replace("-", "−"), share * width + 3, height - 4);
    pen.fillText(`${db} dB out`.replace("-", "−"), 3, y - 3);
  }
}

/** The picture of a unit that has no scale of its own. */
function Sketch({ address, unit }: { address: string; unit: Unit }) {
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      if (unit.kind === "compressor") levelGrid(pen, width, height, colours);
      const points = pictureOf(unit, Math.max(2, Math.round(width)));
      if (!points) return;
      pen.beginPath();
      points.forEach((y, x) => {
        pen.lineTo(x, height - 8 - y * (height - 16));
      });
      pen.strokeStyle = colours.ink;
      pen.lineWidth = 2;
      pen.stroke();
    },
    [unit],
  );
  return (
    <Drawing
      draw={draw}
      label={`What ${unit.name} does: ${unitSpec(unit.kind).help}`}
      className="min-h-[110px] w-full flex-1"
    >
      {unit.kind === "shaper" && <LevelDot address={address} unit={unit} />}
    </Drawing>
  );
}
