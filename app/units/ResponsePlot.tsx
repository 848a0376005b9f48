import { scaleLinear } from "d3-scale";
import { useCallback, useState } from "react";
import { type Look, useMeasures } from "../state/measuring";
import { type Colours, type Draw, Drawing } from "../widgets/Drawing";
import { frequencyAt, placeOf } from "./unit-picture";

interface ResponsePlotProps {
  readonly label: string;
  /** Decibels at a frequency. */
  readonly at: (frequency: number) => number;
  /** Highest and lowest decibels that are shown, and where lines are drawn. */
  readonly range: readonly [number, number];
  readonly lines: readonly number[];
  /** A frequency that is marked; null for none. */
  readonly mark: number | null;
  /** Whether what is heard stands behind it. */
  readonly live?: boolean;
  readonly className?: string;
  readonly children?: React.ReactNode;
}

/** Listens while it is there. */
function Live({ show }: { show: (look: Look) => void }) {
  useMeasures(show);
  return null;
}

/** Lowest level of what is heard that is drawn: it fills the plot's height up to full level. */
const SOFTEST = -84;

/** What is heard, behind a response: evenly by octaves, as that is. */
function drawBehind(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  colours: Colours,
  spectrum: Float32Array,
): void {
  pen.beginPath();
  pen.moveTo(0, height);
  spectrum.forEach((level, b) => {
    pen.lineTo((b / spectrum.length) * width, height * Math.min(1, Math.max(0, level / SOFTEST)));
  });
  pen.lineTo(width, height);
  pen.fillStyle = colours["tint-leaf"];
  pen.fill();
}

/** A response in decibels over frequency. */
export function ResponsePlot({
  label,
  at,
  range: [top, bottom],
  lines,
  mark,
  live = false,
  className,
  children,
}: ResponsePlotProps) {
  const [look, setLook] = useState<Look | null>(null);
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      if (look) drawBehind(pen, width, height, colours, look.measured.spectrum);
      const y = scaleLinear([top, bottom], [0, height]);
      pen.font = '10px "Spline Sans Mono Variable", monospace';
      for (const f of [50, 100, 200, 500, 1000, 2000, 5000, 10000]) {
        const x = Math.round(placeOf(f) * width);
        pen.fillStyle = colours.rule;
        pen.fillRect(x, 0, 1, height);
        pen.fillStyle = colours["ink-faint"];
        if (width > 480 || String(f).startsWith("1"))
          pen.fillText(f >= 1000 ? `${f / 1000} kHz` : `${f} Hz`, x + 3, height - 4);
      }
      for (const db of lines) {
        pen.fillStyle = colours.rule;
        pen.fillRect(0, Math.round(y(db)), width, 1);
        pen.fillStyle = colours["ink-faint"];
        pen.fillText(`${db} dB`.replace("-", "−"), 3, y(db) - 3);
      }
      pen.beginPath();
      for (let i = 0; i <= width; i++) pen.lineTo(i, y(Math.max(bottom - 6, at(frequencyAt(i / width)))));
      pen.strokeStyle = colours.ink;
      pen.lineWidth = 2;
      pen.stroke();
      if (mark === null) return;
      pen.fillStyle = colours.cobalt;
      pen.fillRect(Math.round(placeOf(mark) * width), 0, 1, height);
    },
    [at, top, bottom, lines, mark, look],
  );
  return (
    <Drawing draw={draw} label={label} className={className ?? "min-h-[110px] w-full flex-1"}>
      {live && <Live show={setLook} />}
      {children}
    </Drawing>
  );
}
