import type { Instrument } from "../../core/instrument";

/** Most turns that can be undone. */
const MOST = 200;

/** What a player did, so that it can be undone: instruments as they were, those of one gesture as one. */
export class Turns {
  private readonly past: Instrument[] = [];
  private future: Instrument[] = [];
  private gesture: string | null = null;

  /** Something is about to change an instrument. */
  before(instrument: Instrument, gesture: string): void {
    if (gesture === this.gesture && this.past.length > 0) return;
    this.gesture = gesture;
    this.past.push(instrument);
    if (this.past.length > MOST) this.past.shift();
    this.future = [];
  }

  /** The instrument as it was before the last turn; null where there was none. */
  undo(now: Instrument): Instrument | null {
    const last = this.past.pop();
    if (!last) return null;
    this.future.push(now);
    this.gesture = null;
    return last;
  }

  /** The instrument as it was before that was undone; null where nothing was. */
  redo(now: Instrument): Instrument | null {
    const next = this.future.pop();
    if (!next) return null;
    this.past.push(now);
    this.gesture = null;
    return next;
  }
}
