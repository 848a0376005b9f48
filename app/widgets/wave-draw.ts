import { columnPeaks } from "../../core/audio";
import type { Wave } from "../state/audio-queries";
import type { Colours } from "./Drawing";
import type { Span } from "./wave-span";

/** The factor that makes a sound fill its box. */
export function fillGain({ peaks }: Wave): number {
  const coarsest = peaks.levels.at(-1) ?? new Float32Array(0);
  const most = coarsest.reduce((m, x) => Math.max(m, Math.abs(x)), 0);
  return most > 1e-5 ? 1 / most : 1;
}

/** The factor that makes what is shown of a sound fill its box. */
export function fillGainOf({ peaks, close }: Wave, { from, to }: Span): number {
  const table = new Float32Array(2 * FILL_COLUMNS);
  columnPeaks(peaks, from, to, FILL_COLUMNS, table, close);
  const most = table.reduce((m, x) => Math.max(m, Math.abs(x)), 0);
  return most > 1e-5 ? 1 / most : 1;
}
const FILL_COLUMNS = 256;

/** Draws a waveform over a box; full scale times `gain` touches the edges. */
export function drawWave(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  span: Span,
  wave: Wave,
  colours: Colours,
  gain = 1,
): void {
  const columns = Math.max(1, Math.floor(width));
  const table = new Float32Array(columns * 2);
  columnPeaks(wave.peaks, span.from, span.to, columns, table, wave.close);
  const middle = height / 2;
  const reach = (middle - 3) * gain;
  pen.strokeStyle = colours.rule;
  pen.beginPath();
  pen.moveTo(0, Math.round(middle) + 0.5);
  pen.lineTo(width, Math.round(middle) + 0.5);
  pen.stroke();
  pen.fillStyle = colours.ink;
  const perColumn = (span.to - span.from) / columns;
  const { close } = wave;
  if (close && perColumn < 0.5) {
    pen.strokeStyle = colours.ink;
    pen.lineWidth = 1.3;
    pen.beginPath();
    for (let i = Math.floor(span.from); i <= Math.ceil(span.to); i++) {
      pen.lineTo((i - span.from) / perColumn, middle - (close.values[i - close.from] ?? 0) * reach);
    }
    pen.stroke();
    pen.lineWidth = 1;
    return;
  }
  for (let c = 0; c < columns; c++) {
    const low = table[2 * c] ?? 0;
    const high = table[2 * c + 1] ?? 0;
    const top = middle - high * reach;
    pen.fillRect(c, top, 1, Math.max(0.7, (high - low) * reach));
  }
}

/** A waveform as it was drawn last: what lies below and above it becomes another far oftener, as while a flag is dragged, than it does itself. */
export class WaveImage {
  private canvas: HTMLCanvasElement | null = null;
  private of: readonly unknown[] = [];

  /** As `drawWave` does. */
  draw(...given: Parameters<typeof drawWave>): void {
    const [pen, width, height, { from, to }, wave, colours, gain] = given;
    const scale = devicePixelRatio || 1;
    const of = [width, height, from, to, wave, colours, gain, scale];
    this.canvas ??= document.createElement("canvas");
    const { canvas } = this;
    if (of.some((value, i) => value !== this.of[i])) {
      this.of = of;
      canvas.width = Math.max(1, Math.ceil(width * scale));
      canvas.height = Math.max(1, Math.ceil(height * scale));
      const own = canvas.getContext("2d");
      own?.scale(scale, scale);
      if (own) drawWave(own, width, height, { from, to }, wave, colours, gain);
    }
    pen.drawImage(canvas, 0, 0, canvas.width / scale, canvas.height / scale);
  }
}
