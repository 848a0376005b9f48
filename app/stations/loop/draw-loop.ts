import type { Loop } from "../../../core/instrument";
import type { Colours } from "../../widgets/Drawing";
import type { WaveScale } from "../../widgets/wave-scale";
import { crossings } from "./crossings";
import { heardWave } from "./heard-wave";

/** Pixels between two lines of a hatching. */
const HATCH = 8;
/** Pixels of a pattern for each on the sheet. */
const SHARP = 2;

/** Patterns of hatchings by way and colour: a pattern is filled much faster than its lines are drawn. */
const patterns = new Map<string, CanvasPattern | null>();

function hatching(pen: CanvasRenderingContext2D, way: 1 | -1, colours: Colours): CanvasPattern | null {
  const key = `${way} ${colours.rule}`;
  let pattern = patterns.get(key);
  if (pattern === undefined) {
    const tile = document.createElement("canvas");
    tile.width = HATCH * SHARP;
    tile.height = HATCH * SHARP;
    const lines = tile.getContext("2d");
    if (lines) {
      lines.scale(SHARP, SHARP);
      lines.strokeStyle = colours.rule;
      lines.beginPath();
      for (const at of [-HATCH, 0, HATCH]) {
        lines.moveTo(at, way === 1 ? HATCH : 0);
        lines.lineTo(at + HATCH, way === 1 ? 0 : HATCH);
      }
      lines.stroke();
    }
    pattern = pen.createPattern(tile, "repeat");
    pattern?.setTransform(new DOMMatrix().scale(1 / SHARP));
    patterns.set(key, pattern);
  }
  return pattern;
}

/** Hatches a loop, as a section is on a drawing: one way while the key is held, the other way after. */
export function hatch(
  pen: CanvasRenderingContext2D,
  { x, width, height }: WaveScale,
  { start, end }: Loop,
  way: 1 | -1,
  colours: Colours,
): void {
  const left = Math.max(0, x(start));
  const right = Math.min(width, x(end));
  if (right <= left) return;
  pen.save();
  pen.beginPath();
  pen.rect(left, 0, right - left, height);
  pen.clip();
  pen.fillStyle = colours.ground;
  pen.fillRect(left, 0, right - left, height);
  // Its lines belong to the sheet, so that they stay where they are while a flag moves.
  pen.fillStyle = hatching(pen, way, colours) ?? colours.ground;
  pen.fillRect(left, 0, right - left, height);
  pen.restore();
}

/** Says over the wave when a loop is heard, where there is room for it. */
export function nameLoop(
  pen: CanvasRenderingContext2D,
  { x, width, height }: WaveScale,
  { start, end }: Loop,
  text: string,
  colours: Colours,
): void {
  const left = Math.max(0, x(start));
  if (Math.min(width, x(end)) - left < 84) return;
  pen.font = '11px "Instrument Sans Variable", sans-serif';
  const wide = pen.measureText(text).width;
  pen.fillStyle = colours.sheet;
  pen.fillRect(left + 14, height - 18, wide + 8, 15);
  pen.fillStyle = colours["ink-soft"];
  pen.fillText(text, left + 18, height - 7);
}

/** The crossfade's slopes: what goes out and, dashed, what lies beyond the loop and comes in. */
export function drawCrossings(
  pen: CanvasRenderingContext2D,
  { x, height }: WaveScale,
  loop: Loop,
  colours: Colours,
): void {
  pen.fillStyle = colours["tint-cobalt"];
  pen.strokeStyle = colours.cobalt;
  const line = (from: number, to: number) => {
    pen.beginPath();
    pen.moveTo(x(from), height);
    pen.lineTo(x(to), 0);
    pen.stroke();
  };
  for (const { from, to, beyond } of crossings(loop)) {
    pen.beginPath();
    pen.moveTo(x(from), height);
    pen.lineTo(x(to), 0);
    pen.lineTo(x(to), height);
    pen.fill();
    line(from, to);
    pen.setLineDash([3, 3]);
    line(beyond.from, beyond.to);
    pen.setLineDash([]);
  }
}

/** Draws over the sample's wave what is heard of it in the loop: crossfaded, and evened out. */
export function drawHeard(
  pen: CanvasRenderingContext2D,
  scale: WaveScale,
  loop: Loop,
  samples: Float32Array,
  colours: Colours,
  gain: number,
): void {
  const { x, width, height } = scale;
  const middle = height / 2;
  const reach = (middle - 3) * gain;
  const pixels = (frames: number) => Math.min(8192, frames, Math.round(x(frames) - x(0)));
  for (const { from, to, low, high } of heardWave(samples, loop, pixels)) {
    const [left, right] = [x(from), x(to)];
    if (right < 0 || left > width) continue;
    pen.save();
    pen.beginPath();
    pen.rect(left, 0, right - left, height);
    pen.clip();
    hatch(pen, scale, loop, 1, colours);
    drawCrossings(pen, scale, loop, colours);
    pen.fillStyle = colours.ink;
    pen.strokeStyle = colours.ink;
    const step = (right - left) / low.length;
    if (low.length === to - from) {
      pen.lineWidth = 1.3;
      pen.beginPath();
      for (let c = 0; c < low.length; c++) pen.lineTo(left + c * step, middle - (low[c] as number) * reach);
      pen.lineTo(right, middle - (samples[to] ?? 0) * reach);
      pen.stroke();
      pen.restore();
      continue;
    }
    for (let c = 0; c < low.length; c++) {
      const top = middle - (high[c] as number) * reach;
      const tall = ((high[c] as number) - (low[c] as number)) * reach;
      pen.fillRect(left + c * step, top, step, Math.max(0.7, tall));
    }
    pen.restore();
  }
}
