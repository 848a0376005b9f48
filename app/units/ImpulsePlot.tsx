import { useCallback } from "react";
import type { Unit } from "../../core/instrument";
import { formatNumber } from "../../core/params";
import type { ParamValues } from "../../core/units";
import { useWave } from "../state/audio-queries";
import { useInstrument } from "../state/use-session";
import { type Draw, Drawing } from "../widgets/Drawing";
import { drawWave, fillGain } from "../widgets/wave-draw";
import { PlotHandle } from "./PlotHandle";

/** Shortest part of an impulse that a drag leaves, in seconds. */
const SHORTEST = 0.005;

interface Part {
  readonly start: number;
  readonly end: number;
  readonly rise: number;
  readonly fade: number;
}

/** The wave of a recorded room's impulse and which part of it is heard: where it begins, where it ends, up to where it comes in, from where on it fades; turned round where it goes backward. */
export function ImpulsePlot({ address, unit }: { address: string; unit: Unit }) {
  const sample = useInstrument((i) => i.samples.find((s) => s.sha === unit.sample));
  const { data } = useWave(unit.sample ?? null);
  const total = sample ? sample.frames / sample.rate : 1;
  const start = Math.min(total, Number(unit.params.start ?? 0));
  const length = Number(unit.params.length ?? 0);
  const end = length > 0 ? Math.min(total, start + length) : total;
  const fade = Number(unit.params.fadeOut ?? 0);
  const rise = Number(unit.params.fadeIn ?? 0);
  const stretch = Number(unit.params.stretch ?? 1);
  const backward = unit.params.direction === "backward";
  /** The place in the impulse of a share of what is heard, from its beginning. */
  const placeOf = (share: number) => (backward ? end - share * (end - start) : start + share * (end - start));
  const risen = placeOf(rise);
  const bend = placeOf(1 - fade);
  const part: Part = { start, end, rise, fade };
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      const x = (seconds: number) => (seconds / total) * width;
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      if (!data) {
        pen.fillStyle = colours["ink-soft"];
        pen.font = '13px "Instrument Sans Variable", sans-serif';
        pen.fillText(unit.sample ? "the impulse is read …" : "no impulse yet: record a room at Take", 12, 22);
        return;
      }
      drawWave(pen, width, height, { from: 0, to: data.peaks.frames }, data, colours, fillGain(data));
      pen.globalAlpha = 0.72;
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, x(start), height);
      pen.fillRect(x(end), 0, width - x(end), height);
      pen.globalAlpha = 1;
      // How loud it is let through, above and below the middle alike.
      pen.strokeStyle = colours.cobalt;
      pen.lineWidth = 1.5;
      for (const sign of [-1, 1]) {
        pen.beginPath();
        pen.moveTo(x(start), height / 2);
        const soft = (share: number) => (share >= 1 ? 1 : 0.5 - 0.5 * Math.cos(Math.PI * Math.max(0, share)));
        for (let p = x(start); p <= x(end); p += 2) {
          const along = (p - x(start)) / Math.max(1, x(end) - x(start));
          const gone = backward ? 1 - along : along;
          const share = soft(rise > 0 ? gone / rise : 1) * soft(fade > 0 ? (1 - gone) / fade : 1);
          pen.lineTo(p, height / 2 + sign * share * (height / 2 - 3));
        }
        pen.lineTo(x(end), height / 2);
        pen.stroke();
      }
      pen.font = '10px "Spline Sans Mono Variable", monospace';
      pen.fillStyle = colours["ink-soft"];
      const text = [
        `${formatNumber("seconds", end - start)} of ${formatNumber("seconds", total)}`,
        ...(backward ? ["backward ←"] : []),
        ...(stretch !== 1 ? [`${formatNumber("ratio", stretch)} as long`] : []),
      ].join(" · ");
      pen.fillText(text, width - pen.measureText(text).width - 6, height - 6);
    },
    [data, total, start, end, rise, fade, backward, stretch, unit.sample],
  );
  /** The parameters of a part; one that ends with the impulse is all of what is left of it. */
  const paramsOf = (given: Part): ParamValues => {
    const from = Math.max(0, Math.min(given.start, given.end - SHORTEST));
    const to = Math.max(from + SHORTEST, given.end);
    const share = (x: number) => Math.max(0, Math.min(1, x));
    return {
      start: from,
      length: to >= total - 1e-4 ? 0 : to - from,
      fadeOut: share(given.fade),
      fadeIn: share(given.rise),
    };
  };
  const handle = (sign: string, name: string, x: number, y: number, moved: (from: Part, seconds: number) => Part) => (
    <PlotHandle
      label={`${name} ${formatNumber("seconds", x)}`}
      help="Left and right move it."
      address={address}
      sign={sign}
      x={x / total}
      y={y}
      from={part}
      drag={(from, across) => paramsOf(moved(from, across * total))}
      step={(across, _, fine) => (across === 0 ? null : paramsOf(moved(part, across * (fine ? 0.001 : 0.01))))}
    />
  );
  return (
    <Drawing
      draw={draw}
      label={`The impulse; heard from ${formatNumber("seconds", start)} to ${formatNumber("seconds", end)}`}
      className="relative min-h-[110px] w-full flex-1"
    >
      {sample && (
        <>
          {handle("b", "Start", start, 0.5, (from, by) => ({ ...from, start: from.start + by }))}
          {handle("e", "End", end, 0.5, (from, by) => ({ ...from, end: Math.min(total, from.end + by) }))}
          {handle("f", "Fade-out from", bend, 0.12, (from, by) => ({
            ...from,
            fade: from.fade - ((backward ? -1 : 1) * by) / Math.max(SHORTEST, from.end - from.start),
          }))}
          {handle("i", "Fade-in to", risen, 0.88, (from, by) => ({
            ...from,
            rise: from.rise + ((backward ? -1 : 1) * by) / Math.max(SHORTEST, from.end - from.start),
          }))}
        </>
      )}
    </Drawing>
  );
}
