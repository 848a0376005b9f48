import { useCallback, useMemo } from "react";
import { settingOf, type Unit } from "../../core/instrument";
import { formatNumber } from "../../core/params";
import { type Draw, Drawing } from "../widgets/Drawing";

const FALL = -60;
const FOOT = 14;

/** How a hall dies away: low, middle and high of the spectrum over time, behind its pre-delay. */
export function HallPlot({ unit }: { unit: Unit }) {
  const value = (id: string): number => Number(settingOf(unit, id));
  const [preDelay, decay, low, high] = [value("preDelay"), value("decay"), value("lowDecay"), value("highDecay")];
  const freeze = value("freeze") >= 0.5;
  const bands = useMemo(
    () => [
      { name: "low", seconds: decay * low, dash: [8, 4] },
      { name: "middle", seconds: decay, dash: [] },
      { name: "high", seconds: decay * high, dash: [2, 3] },
    ],
    [decay, low, high],
  );
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      pen.font = '10px "Spline Sans Mono Variable", monospace';
      const foot = height - FOOT;
      const longest = preDelay + decay * Math.max(1, low, high) * 1.04;
      const x = (seconds: number): number => (seconds / longest) * width;
      for (const level of [-12, -24, -36, -48]) {
        const y = Math.round((level / FALL) * foot);
        pen.fillStyle = colours.rule;
        pen.fillRect(0, y, width, 1);
        pen.fillStyle = colours["ink-faint"];
        pen.fillText(`${level} dB`.replace("-", "−"), 3, y - 3);
      }
      const step = [0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20].find((s) => longest / s < 7) ?? 30;
      for (let t = step; t < longest; t += step) {
        pen.fillStyle = colours.rule;
        pen.fillRect(Math.round(x(t)), 0, 1, foot);
        pen.fillStyle = colours["ink-faint"];
        pen.fillText(formatNumber("seconds", t), x(t) + 3, height - 3);
      }
      pen.strokeStyle = colours.ink;
      pen.lineWidth = 2;
      bands.forEach(({ name, seconds, dash }, i) => {
        const end = freeze ? longest : preDelay + seconds;
        pen.setLineDash(dash);
        pen.beginPath();
        pen.moveTo(x(preDelay), 2);
        pen.lineTo(x(end), freeze ? 2 : foot);
        pen.stroke();
        if (freeze && i > 0) return;
        // Where the line is half way down, each name a little lower than the one before.
        const at = freeze ? 0.5 : 0.35 + 0.2 * i;
        const text = freeze ? "frozen" : `${name} ${formatNumber("seconds", seconds)}`;
        const left = x(preDelay + (end - preDelay) * at) + 6;
        const base = freeze ? 16 : foot * at;
        pen.fillStyle = colours.well;
        pen.fillRect(left - 2, base - 10, pen.measureText(text).width + 4, 13);
        pen.fillStyle = colours.ink;
        pen.fillText(text, left, base);
      });
      pen.setLineDash([]);
    },
    [bands, preDelay, decay, low, high, freeze],
  );
  return (
    <Drawing
      draw={draw}
      label={`How the hall dies away: ${bands.map((b) => `${b.name} in ${formatNumber("seconds", b.seconds)}`).join(", ")}`}
      className="min-h-[110px] w-full flex-1"
    />
  );
}
