/** The stretch of a sound that is shown: `[from, to)` in frames. */
export interface Span {
  readonly from: number;
  readonly to: number;
}

/** Fewest frames shown, so that single samples can be seen and no zoom divides by nothing. */
const FEWEST = 32;

/** A span moved so that it lies within a sound of a length (whole sounds may be shown with nothing beside them). */
export function settleSpan(span: Span, frames: number): Span {
  const length = Math.min(frames, Math.max(FEWEST, span.to - span.from));
  const from = Math.min(Math.max(0, span.from), frames - length);
  return { from, to: from + length };
}

/** The span zoomed by a factor (above 1: closer) around the place `at`, 0 to 1 of its width. */
export function zoomSpan(span: Span, factor: number, at: number, frames: number): Span {
  const length = (span.to - span.from) / factor;
  const centre = span.from + at * (span.to - span.from);
  return settleSpan({ from: centre - at * length, to: centre + (1 - at) * length }, frames);
}

/** A stretch shown with a margin on both sides. */
export function spanAround(start: number, end: number, frames: number, margin = 0.15): Span {
  const extra = (end - start) * margin + 16;
  return settleSpan({ from: start - extra, to: end + extra }, frames);
}
