import { useCallback } from "react";
import { settingOf, type Unit } from "../../core/instrument";
import { type Draw, Drawing } from "../widgets/Drawing";

const FOOT = 14;
const MONO = '10px "Spline Sans Mono Variable", monospace';
/** Cycles of the tone that are drawn: fewer than sound, so that one sees them. */
const CYCLES = 14;

/** What is left of a part after a share of its length, by its curve: between the square of what rings, itself and a straight line. */
export function leftOf(share: number, curve: number): number {
  const ringing = 10 ** (-3 * share);
  const line = Math.max(0, 1 - share);
  return curve >= 0 ? ringing + curve * (line - ringing) : ringing + curve * (ringing - ringing * ringing);
}

/** The times at which a scale is marked, in seconds: three to eight of them. */
function marks(length: number): number[] {
  const step = [0.001, 0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2].find((s) => length / s <= 8) ?? 2;
  return Array.from({ length: Math.floor(length / step) }, (_, i) => (i + 1) * step);
}

const factor = (db: number): number => (db <= -60 ? 0 : 10 ** (db / 20));

/** A strike's two parts in time: the tone as a line that falls in pitch, the noise as what fills its envelope. */
export function StrikePlot({ unit }: { unit: Unit }) {
  const { params } = unit;
  const draw = useCallback<Draw>(
    (pen, width, height, colours) => {
      const value = (id: string): number => Number(settingOf({ params }, id));
      const hold = value("hold");
      const [tone, noise] = [factor(value("tone")), factor(value("noise"))];
      const [toneLength, noiseLength] = [Math.max(0.001, value("toneLength")), Math.max(0.001, value("noiseLength"))];
      const length = Math.max(tone > 0 ? (hold + toneLength) * 0.6 : 0, noise > 0 ? noiseLength * 0.7 : 0, 0.004);
      const top = Math.max(tone, noise, 0.05);
      const middle = (height - FOOT) / 2;
      const size = middle - 6;
      pen.fillStyle = colours.well;
      pen.fillRect(0, 0, width, height);
      pen.font = MONO;
      for (const at of marks(length)) {
        const x = (at / length) * width;
        pen.fillStyle = colours.rule;
        pen.fillRect(Math.round(x), 0, 1, height - FOOT);
        pen.fillStyle = colours["ink-faint"];
        if (x < width - 40) pen.fillText(at < 1 ? `${Math.round(at * 1000)} ms` : `${at} s`, x + 3, height - 3);
      }
      const noiseAt = (t: number) => (noise / top) * leftOf(t / noiseLength, value("noiseCurve"));
      const toneAt = (t: number) => (tone / top) * leftOf(Math.max(0, t - hold) / toneLength, value("toneCurve"));
      // Noise: upright strokes of any length, always the same ones.
      pen.fillStyle = colours["rule-strong"];
      for (let x = 0; x < width; x += 2) {
        const some =
          0.35 + 0.65 * Math.abs(Math.sin(x * 12.9898) * 43758.5453 - Math.floor(Math.sin(x * 12.9898) * 43758.5453));
        const h = noiseAt((x / width) * length) * size * some;
        pen.fillRect(x, middle - h, 1.2, h * 2);
      }
      const octaves = value("pitchDrop") / 12;
      const dropLength = Math.max(0.001, value("dropTime"));
      let phase = 0;
      pen.beginPath();
      for (let x = 0; x <= width; x++) {
        const t = (x / width) * length;
        pen.lineTo(x, middle - toneAt(t) * size * Math.sin(2 * Math.PI * phase));
        phase += Math.min(0.45, (CYCLES / width) * 2 ** (octaves * 10 ** ((-3 * t) / dropLength)));
      }
      pen.strokeStyle = colours.ink;
      pen.lineWidth = 1.6;
      if (tone > 0) pen.stroke();
      pen.fillStyle = colours.ink;
      pen.textAlign = "right";
      pen.fillText(
        tone > 0
          ? noise > 0
            ? "line: tone · strokes: noise"
            : "tone alone"
          : noise > 0
            ? "noise alone"
            : "both are off",
        width - 6,
        12,
      );
      pen.textAlign = "left";
    },
    [params],
  );
  return (
    <Drawing
      draw={draw}
      label={`The tone and the noise of ${unit.name} in time`}
      className="min-h-[110px] w-full flex-1"
    />
  );
}
