/** A stretch of so many frames of exact silence in all channels isn't a microphone's: its own noise is never 0 for so long. */
export const HOLE = 128;
/** Chunks at the beginning of which nothing is said: while an input starts, silence comes in between. */
export const START = 5;
/** Chunks between a hole and the underrun that belongs to it, at the most: two seconds, for browsers count with some delay. */
export const NEAR = 10;

/** Browsers pass sound on in pieces of 10 ms; what they lose is a whole number of these. */
const PIECES = 100;
/** Longer silences than so many pieces, a second, are an input's own. */
const MOST_PIECES = 100;

interface Hole {
  readonly at: number;
  /** The chunk that it ended in, or goes on in. */
  chunk: number;
}

/**
 * Finds where a recording has gaps because the computer was late: the browser then puts silence in place of what it has lost. Such
 * a hole is told from an input's own silence by its length, a whole number of the browser's pieces, or by an underrun that the
 * browser counts at about the same time; underruns alone mean nothing, for many cost no sound.
 */
export class GapWatch {
  /** Frames at which a gap begins. */
  readonly gaps: number[] = [];
  /** Frames of silence that the browser has put in, as far as their length says so. */
  inserted = 0;
  private frames = 0;
  private zeros = 0;
  /** Holes of the last chunks for which neither their length nor an underrun has spoken yet. */
  private waiting: Hole[] = [];
  private chunk = 0;
  private late = Number.NEGATIVE_INFINITY;
  private heard = false;
  private gated = false;
  private readonly piece: number;

  /** `underruns`: how many the browser has counted before the recording began. `rate` in hertz. */
  constructor(
    private underruns: number,
    rate: number,
  ) {
    this.piece = Math.round(rate / PIECES);
  }

  /** Takes the next chunk (all channels, equally long) and the underruns counted so far; returns how many gaps are new. */
  take(channels: readonly Float32Array[], underruns: number): number {
    const before = this.gaps.length;
    this.chunk++;
    if (underruns > this.underruns) this.late = this.chunk;
    this.underruns = underruns;
    const frames = channels[0]?.length ?? 0;
    for (let i = 0; i < frames; i++) {
      let silent = true;
      for (const channel of channels) if (channel[i] !== 0) silent = false;
      if (!silent) {
        if (this.zeros >= HOLE) this.ended(this.frames + i);
        this.zeros = 0;
        this.heard = true;
      } else if (++this.zeros === HOLE && this.heard && this.chunk > START) {
        this.waiting.push({ at: this.frames + i + 1 - HOLE, chunk: this.chunk });
      }
    }
    this.frames += frames;
    const last = this.waiting.at(-1);
    if (last && this.zeros >= HOLE && this.zeros <= MOST_PIECES * this.piece) last.chunk = this.chunk;
    // An input that falls silent by itself, as through a gate, says nothing by its silence.
    if (this.waiting.some((w) => this.chunk - w.chunk > NEAR)) this.gated = true;
    for (const hole of this.waiting) if (!this.gated && Math.abs(this.late - hole.chunk) <= NEAR) this.tell(hole);
    this.waiting = this.waiting.filter((w) => this.chunk - w.chunk <= NEAR);
    return this.gaps.length - before;
  }

  /** A hole has ended before this frame: its length may say that it was a gap. */
  private ended(frame: number): void {
    if (this.gated || this.zeros % this.piece !== 0 || this.zeros > MOST_PIECES * this.piece) return;
    this.inserted += this.zeros;
    const hole = this.waiting.at(-1);
    if (hole?.at === frame - this.zeros) this.tell(hole);
  }

  private tell(hole: Hole): void {
    this.gaps.push(hole.at);
    this.waiting = this.waiting.filter((w) => w !== hole);
  }
}
