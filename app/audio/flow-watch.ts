/** Pieces of 10 ms that a browser holds between an input and the page at the most; what comes while it holds them is thrown away. */
export const MOST_HELD = 10;
/** Chunks over which the least difference counts: both numbers are read at moments that differ by what the page was late. */
export const WINDOW = 8;

/**
 * Finds sound that was lost without a trace between an input and the page: the input has delivered more than has arrived and can
 * still be on its way. What is said to be lost was lost; less than a tenth of a second may be lost before it is noticed.
 */
export class FlowWatch {
  /** Frames known to be lost. */
  lost = 0;
  private readonly recent: { readonly frame: number; readonly ahead: number }[] = [];
  private least = Number.POSITIVE_INFINITY;

  /** `piece`: frames in 10 ms. */
  constructor(private readonly piece: number) {}

  /**
   * Takes how many frames have arrived so far, how many of them the browser has put in as silence, and how many the input has delivered
   * (from any beginning). Returns the frame near which sound was lost, or null.
   */
  take(arrived: number, inserted: number, delivered: number): number | null {
    this.recent.push({ frame: arrived, ahead: delivered - (arrived - inserted) });
    if (this.recent.length <= WINDOW) return null;
    const oldest = this.recent.shift();
    if (oldest) this.least = Math.min(this.least, oldest.ahead);
    const bound = this.least + MOST_HELD * this.piece + this.lost;
    const sure = this.recent.reduce((least, { ahead }) => Math.min(least, ahead), Number.POSITIVE_INFINITY);
    if (sure - bound < this.piece) return null;
    this.lost += sure - bound;
    return this.recent[0]?.frame ?? arrived;
  }
}
