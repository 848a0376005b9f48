import { scaleLinear } from "d3-scale";
import type { Colours } from "./Drawing";
import type { Span } from "./wave-span";

/** Height of a ruler in pixels. */
const RULER = 18;

/** Height of all rulers of a wave: the seconds, and under them the beats where there are any. */
export const rulersOf = (beats: Beats | null | undefined): number => (beats ? 2 * RULER : RULER);

/** A tempo, the second at which the first bar begins, and the beats of a bar, four where nothing is said. */
export interface Beats {
  readonly tempo: number;
  readonly origin: number;
  readonly bar?: number;
}

/** What a ruler counts: units of so many frames, from a frame on, and what is written behind each number. */
export interface Ruler {
  readonly size: number;
  readonly origin: number;
  readonly suffix: string;
}

/** A ruler in bars and beats, under the seconds, with thin lines through the wave: as many as there is room for. */
export function drawBeats(
  pen: CanvasRenderingContext2D,
  width: number,
  height: number,
  span: Span,
  rate: number,
  colours: Colours,
  { tempo, origin, bar = 4 }: Beats,
): void {
  const beat = (60 / tempo) * rate;
  const pixels = (beat / (span.to - span.from)) * width;
  // Every beat where there is room, else every bar, then every four, sixteen, … bars.
  const end = 2 * RULER;
  let every = 1;
  while (pixels * every < 34) every *= every === 1 ? bar : 4;
  if (bar === 1) while (pixels * every < 34) every *= 4;
  pen.font = '10.5px "Spline Sans Mono Variable", monospace';
  for (let n = Math.ceil((span.from - origin * rate) / beat / every) * every; ; n += every) {
    const x = Math.round(((origin * rate + n * beat - span.from) / (span.to - span.from)) * width) + 0.5;
    if (x > width) return;
    pen.strokeStyle = colours["rule-strong"];
    pen.beginPath();
    pen.moveTo(x, n % bar === 0 ? end - 8 : end - 5);
    pen.lineTo(x, end);
    pen.stroke();
    pen.strokeStyle = colours.rule;
    pen.beginPath();
    pen.moveTo(x, end);
    pen.lineTo(x, height);
    pen.stroke();
    const number = Math.floor(n / bar) + (n < 0 ? 0 : 1);
    pen.fillStyle = colours["ink-faint"];
    pen.fillText(every >= bar ? `${number}` : `${number}.${(((n % bar) + bar) % bar) + 1}`, x + 4, end - 6);
  }
}

/** A ruler in as fine steps as there is room for. */
export function drawRuler(
  pen: CanvasRenderingContext2D,
  width: number,
  span: Span,
  { size, origin, suffix }: Ruler,
  colours: Colours,
): void {
  const place = scaleLinear([(span.from - origin) / size, (span.to - origin) / size], [0, width]);
  const most = Math.max(1, width / 90);
  const text = place.tickFormat(most);
  pen.font = '10.5px "Spline Sans Mono Variable", monospace';
  pen.fillStyle = colours["ink-faint"];
  pen.strokeStyle = colours["rule-strong"];
  pen.beginPath();
  for (const value of place.ticks(most)) {
    const x = Math.round(place(value)) + 0.5;
    pen.moveTo(x, RULER - 6);
    pen.lineTo(x, RULER);
    const shown = `${text(value).replace(/,/g, "")}${suffix}`;
    if (x + 4 + pen.measureText(shown).width < width) pen.fillText(shown, x + 4, RULER - 6);
  }
  pen.stroke();
}
