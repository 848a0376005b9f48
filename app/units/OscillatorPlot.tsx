import { useCallback, useEffect, useState } from "react";
import { useStore } from "zustand";
import { harmonicLevels, lastCycles } from "../../core/analysis";
import { hertzOf } from "../../core/audio";
import type { Unit } from "../../core/instrument";
import { useMeasures } from "../state/measuring";
import { tapping } from "../state/tapping";
import { type Draw, Drawing } from "../widgets/Drawing";
import { cycleOf, harmonicsOf } from "./oscillator-wave";

const HARMONICS = 48;
const FLOOR = -60;
const FOOT = 14;
const MONO = '10px "Spline Sans Mono Variable", monospace';

/** Of two cycles that are heard, so many points. */
const POINTS = 300;
/** Height that a label of a level needs, and width that one of two digits does. */
const LABEL = 13;
/** Left of the harmonics there is room for the levels' scale. */
const BEGIN = 44;

/** What is heard of a layer: two cycles of it and the levels of its harmonics; null while it is silent, or of no one pitch. */
interface LiveWave {
  readonly cycles: Float32Array;
  readonly levels: readonly number[];
}

/** Listens to a layer behind its units; null also while others listen to something else, of which nothing is to be shown here. */
function useLiveWave(layer: string): LiveWave | null {
  const [wave, setWave] = useState<LiveWave | null>(null);
  const heard = useStore(tapping.store, (s) => s.at === layer);
  useEffect(() => tapping.want(layer), [layer]);
  useMeasures(({ measured: { pitch }, left, rate }) => {
    const hertz = pitch === null || !heard ? null : hertzOf(pitch);
    const cycles = hertz === null ? null : lastCycles(left, rate / hertz, POINTS);
    setWave(hertz !== null && cycles ? { cycles, levels: harmonicLevels(left, rate, hertz, HARMONICS) } : null);
  });
  return heard ? wave : null;
}

/** What is heard over what is set: a thin line over the wave, a mark at each harmonic. */
function drawLive({ cycles, levels }: LiveWave, pen: CanvasRenderingContext2D, w: number, h: number): void {
  const half = Math.round(h * 0.5);
  const foot = h - FOOT;
  pen.beginPath();
  cycles.forEach((y, p) => {
    pen.lineTo((p / cycles.length) * w, half / 2 - y * (half / 2 - 6));
  });
  pen.stroke();
  const step = (w - 48) / HARMONICS;
  levels.forEach((level, i) => {
    if (level <= FLOOR) return;
    const y = foot - (1 - level / FLOOR) * (foot - half - 4);
    pen.fillRect(BEGIN + i * step - 2, y - 1, Math.max(1.5, step * 0.4) + 4, 2);
  });
}

/** An oscillator's wave, two cycles of it, and under it its harmonics, as it is set; over it in green what is heard of its layer, while a note sounds. */
export function OscillatorPlot({ address, unit }: { address: string; unit: Unit }) {
  const live = useLiveWave(address.split("/").slice(0, 2).join("/"));
  const {
    wave,
    secondWave: into,
    blend,
    width,
    phaseDistortion: bend,
    feedback: fed,
    hardSync,
    syncPitch: above,
  } = unit.params;
  const draw = useCallback<Draw>(
    (pen, w, h, colours) => {
      const cycle = cycleOf({
        wave: String(wave),
        into: String(into),
        blend: Number(blend),
        width: Number(width),
        bend: Number(bend),
        fed: Number(fed),
        ratio: hardSync === "on" ? 2 ** (Number(above) / 12) : 1,
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
      const crowded = ((foot - half - 4) * 12) / -FLOOR < LABEL;
      for (const level of [-12, -24, -36, -48]) {
        const y = Math.round(foot - (1 - level / FLOOR) * (foot - half - 4));
        pen.fillStyle = colours.rule;
        pen.fillRect(0, y, w, 1);
        pen.fillStyle = colours["ink-faint"];
        if (!crowded || level % 24 === 0) pen.fillText(`${level} dB`.replace("-", "−"), 3, y - 2);
      }
      const step = (w - 48) / HARMONICS;
      harmonicsOf(cycle, HARMONICS).forEach((level, i) => {
        const height = Math.max(0, 1 - level / FLOOR) * (foot - half - 4);
        const x = BEGIN + i * step;
        pen.fillStyle = colours.ink;
        pen.fillRect(
          x,
          foot - Math.min(height, foot - half - 2),
          Math.max(1.5, step * 0.4),
          Math.min(height, foot - half - 2),
        );
        pen.fillStyle = colours["ink-faint"];
        if (i === 0 || (i + 1) % 8 === 0) pen.fillText(String(i + 1), Math.min(x, w - LABEL), h - 3);
      });
    },
    [wave, into, blend, width, bend, fed, hardSync, above],
  );
  const over = useCallback<Draw>(
    (pen, w, h, colours) => {
      if (!live) return;
      pen.strokeStyle = colours.leaf;
      pen.fillStyle = colours.leaf;
      pen.lineWidth = 1.5;
      drawLive(live, pen, w, h);
      pen.font = MONO;
      pen.textAlign = "right";
      pen.fillText("heard of the layer", w - 5, 12);
      pen.textAlign = "left";
    },
    [live],
  );
  return (
    <div className="relative flex min-h-[110px] w-full flex-1">
      <Drawing
        draw={draw}
        label={`Two cycles of ${unit.name}, and its first ${HARMONICS} harmonics`}
        className="min-h-[110px] w-full flex-1"
      />
      <Drawing
        draw={over}
        label={
          live
            ? "Over it what is heard of its layer"
            : "While a note sounds, what is heard of its layer is drawn over it"
        }
        className="pointer-events-none absolute! inset-0"
      />
    </div>
  );
}
