/** A stretch of so many frames of exact silence in all channels isn't a microphone's: its own noise is never 0 for so long. */
export const HOLE = 128;
/** Chunks at the beginning of which nothing is said: while an input starts, silence comes in between. */
export const START = 5;
/** Chunks between a hole and the underrun that belongs to it, at the most: two seconds, for browsers count with some delay. */
export const NEAR = 10;

/**
 * Finds where a recording has gaps because the computer was late: the browser then puts silence in place of what it has lost, and
 * counts an underrun. Either alone means nothing: an input may be silent, and many an underrun costs no sound.
 */
export class GapWatch {
  /** Frames at which a gap begins. */
  readonly gaps: number[] = [];
  private frames = 0;
  private zeros = 0;
  /** Holes of the last chunks for which no underrun has been counted yet. */
  private waiting: { readonly at: number; readonly chunk: number }[] = [];
  private chunk = 0;
  private late = Number.NEGATIVE_INFINITY;
  private heard = false;
  private gated = false;

  /** `underruns`: how many the browser has counted before the recording began. */
  constructor(private underruns: number) {}

  /** Takes the next chunk (all channels, equally long) and the underruns counted so far; returns how many gaps are new. */
  take(channels: readonly Float32Array[], underruns: number): number {
    this.chunk++;
    if (underruns > this.underruns) this.late = this.chunk;
    this.underruns = underruns;
    const frames = channels[0]?.length ?? 0;
    for (let i = 0; i < frames; i++) {
      let silent = true;
      for (const channel of channels) if (channel[i] !== 0) silent = false;
      if (!silent) {
        this.zeros = 0;
        this.heard = true;
      } else if (++this.zeros === HOLE && this.heard && this.chunk > START) {
        this.waiting.push({ at: this.frames + i + 1 - HOLE, chunk: this.chunk });
      }
    }
    this.frames += frames;
    // An input that falls silent by itself, as through a gate, says nothing by its silence.
    if (this.waiting.some((w) => this.chunk - w.chunk > NEAR)) this.gated = true;
    const found = this.gated ? [] : this.waiting.filter((w) => Math.abs(this.late - w.chunk) <= NEAR);
    this.waiting = this.waiting.filter((w) => !found.includes(w) && this.chunk - w.chunk <= NEAR);
    for (const { at } of found) this.gaps.push(at);
    return found.length;
  }
}
