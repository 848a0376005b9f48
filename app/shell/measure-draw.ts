import { bandEdge, type Measured } from "../../core/analysis";
import { hertzOf, type Note } from "../../core/audio";
import type { Colours } from "../widgets/Drawing";

const TOP = 0;
const BOTTOM = -96;
const FOOT = 14;
/** Partials of the pitch that are marked. */
const PARTIALS = 12;
const LOWEST = bandEdge(0, 1);
const HIGHEST = bandEdge(1, 1);

const placeOf = (hertz: number): number => Math.log(hertz / LOWEST) / Math.log(HIGHEST / LOWEST);

function ground(pen: CanvasRenderingContext2D, width: number, height: number, colours: Colours): void {
  pen.fillStyle = colours.well;
  pen.fillRect(0, 0, width, height);
  pen.font = '10px "Spline Sans Mono Variable", monospace';
}

/** The spectrum as a body, the highest of late as a line above it, and where the partials of the pitch stand. */
export function drawSpectrum(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  colours: Colours,
  measured: Measured | null,
): void {
  ground(pen, width, height, colours);
  const foot = height - FOOT;
  const y = (level: number): number => foot * Math.min(1, Math.max(0, (TOP - level) / (TOP - BOTTOM)));
  for (const level of [-24, -48, -72]) {
    pen.fillStyle = colours.rule;
    pen.fillRect(0, Math.round(y(level)), width, 1);
    pen.fillStyle = colours["ink-faint"];
    pen.fillText(`${level} dB`.replace("-", "−"), 3, y(level) - 3);
  }
  for (const hertz of [50, 100, 200, 500, 1000, 2000, 5000, 10000]) {
    const x = Math.round(placeOf(hertz) * width);
    pen.fillStyle = colours.rule;
    pen.fillRect(x, 0, 1, foot);
    pen.fillStyle = colours["ink-faint"];
    pen.fillText(hertz >= 1000 ? `${hertz / 1000} kHz` : `${hertz} Hz`, x + 3, height - 3);
  }
  if (!measured) return;
  const { spectrum, held, pitch } = measured;
  if (pitch !== null) {
    pen.fillStyle = colours.cobalt;
    for (let n = 1; n <= PARTIALS; n++) {
      const place = placeOf(hertzOf(pitch) * n);
      if (place < 1) pen.fillRect(Math.round(place * width), foot - 5, 1, 5);
    }
  }
  const line = (levels: Float32Array): void => {
    pen.beginPath();
    levels.forEach((level, b) => {
      pen.lineTo((b / levels.length) * width, y(level));
    });
  };
  line(spectrum);
  pen.lineTo(width, foot);
  pen.lineTo(0, foot);
  pen.fillStyle = colours["tint-leaf"];
  pen.fill();
  line(spectrum);
  pen.strokeStyle = colours.leaf;
  pen.lineWidth = 1.5;
  pen.stroke();
  line(held);
  pen.strokeStyle = colours["ink-faint"];
  pen.lineWidth = 1;
  pen.stroke();
}

/** Decibels of a response at the top of the picture, and in the middle. */
const RESPONSE_TOP = 24;

/** What a sweep has met at each frequency, against its own level: 0 dB is a quarter of the way down. */
export function drawResponse(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  colours: Colours,
  levels: Float32Array,
): void {
  const foot = height - FOOT;
  const y = (level: number): number => foot * Math.min(1, Math.max(0, (RESPONSE_TOP - level) / (TOP - BOTTOM)));
  pen.strokeStyle = colours.cobalt;
  pen.lineWidth = 2;
  pen.beginPath();
  let drawn = false;
  levels.forEach((level, band) => {
    // Bands that the sweep hasn't come to yet are nothing.
    if (level <= -119) return;
    pen.lineTo(((band + 0.5) / levels.length) * width, y(level));
    drawn = true;
  });
  pen.stroke();
  if (!drawn) return;
  pen.fillStyle = colours.cobalt;
  const text = "sweep: 0 dB";
  pen.fillRect(width - 10, Math.round(y(0)), 10, 1);
  pen.fillText(text, width - pen.measureText(text).width - 14, y(0) + 3);
}

/** Where the wave comes up through zero, after a place; that place where it doesn't. */
export function risingZero(x: Float32Array, from: number, within: number): number {
  for (let i = from; i < Math.min(x.length - 1, from + within); i++)
    if ((x[i] as number) <= 0 && (x[i + 1] as number) > 0) return i;
  return from;
}

/** Two cycles of the pitch, or 20 ms where there is none, from where the wave comes up through zero. */
export function drawScope(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  colours: Colours,
  heard: { readonly left: Float32Array; readonly rate: number; readonly pitch: Note | null } | null,
): void {
  ground(pen, width, height, colours);
  pen.fillStyle = colours.rule;
  pen.fillRect(0, Math.round(height / 2), width, 1);
  if (!heard) return;
  const { left, rate, pitch } = heard;
  const period = pitch === null ? rate * 0.01 : rate / hertzOf(pitch);
  const frames = Math.min(4096, period * 2);
  const from = risingZero(left, left.length - Math.ceil(frames + period) - 2, period);
  let most = 0;
  for (let i = 0; i < frames; i++) most = Math.max(most, Math.abs(left[from + i] as number));
  if (most < 1e-5) return;
  pen.beginPath();
  for (let i = 0; i <= frames; i++)
    pen.lineTo((i / frames) * width, height / 2 - ((left[from + i] ?? 0) / most) * (height / 2 - 10));
  pen.strokeStyle = colours.leaf;
  pen.lineWidth = 1.5;
  pen.stroke();
  pen.fillStyle = colours["ink-faint"];
  pen.fillText(`${((frames / rate) * 1000).toFixed(1)} ms`, 4, height - 4);
}
