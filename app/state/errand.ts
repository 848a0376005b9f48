import { type Edit, type Instrument, listUnplayed, type Sample } from "../../core/instrument";
import { reasonOf } from "../basis/reason-of";
import { tell } from "./notices";
import { openStored } from "./open-instrument";
import { session } from "./session";
import { stayingHere } from "./whereabouts";

/** What became of something that was made for an instrument: it is in the one that is open, in one that is stored, or it waits to be tried again. */
export type Delivered = "open" | "stored" | "waiting";

/**
 * Work that takes time, for the instrument in which it was begun: whatever is open, looked at or written by another tab when it ends, that instrument
 * gets what was made, and nothing is said to have happened before it has. Whoever begins such work takes an errand first and delivers by it.
 */
export class Errand {
  private constructor(
    /** The instrument as it was when the work began. */
    readonly instrument: Instrument,
  ) {}

  /** An errand for what is open; null where nothing is, or where it can only be read, which is told: `what` is not begun then. */
  static begin(what: string): Errand | null {
    const { instrument } = session;
    if (!instrument) return null;
    if (session.store.getState().reading) {
      tell(
        "warning",
        `Another tab has this instrument open: take it over in the bar at the top to ${what} here. Nothing was changed.`,
      );
      return null;
    }
    return new Errand(instrument);
  }

  /** Whether its instrument is the one that is open: only then what is looked at and chosen is its own. */
  get isOpen(): boolean {
    return session.instrument?.id === this.instrument.id;
  }

  /**
   * Whether whoever began it still stands there, with its instrument open: only then what comes of it may lead on to another station, and change what is selected.
   * Who has gone on is told, with a way there.
   */
  get isAwaited(): boolean {
    return this.isOpen && this.staying();
  }
  private readonly staying = stayingHere();

  /** Whether some samples that it brought are to be placed yet, in what is open. */
  stillUnplayed(samples: readonly Sample[]): boolean {
    const own = new Set(samples.map((s) => s.sha));
    return this.isOpen && listUnplayed(this.now).some((s) => own.has(s.sha));
  }

  /** Its instrument as it is now, where it is open; else as it was. */
  get now(): Instrument {
    return this.isOpen && session.instrument ? session.instrument : this.instrument;
  }

  /**
   * Puts an edit into its instrument. `what` is what it brings, as the beginning of a sentence (“24 samples of spokes”); `before` names the version
   * that is kept first. Where it can't be put in now, that is told with a way to try again, and what was made waits for that.
   */
  async deliver(edit: Edit, what: string, before: string | null = null): Promise<Delivered> {
    const { id, about } = this.instrument;
    const where = `“${about.name}”`;
    let why: string;
    try {
      const put = await session.putInto(id, edit, before);
      if (put === "open") return "open";
      if (put === "stored") {
        tell("good", `${what}: in ${where}, for which it was begun.`, {
          label: `Open ${about.name}`,
          run: () => void openStored(id),
        });
        return "stored";
      }
      why = put === "gone" ? `${where} isn’t in this browser any more` : `another tab has ${where} open`;
    } catch (error) {
      why = reasonOf(error);
    }
    tell("error", `${what}: not yet in ${where}, since ${why}. What was made waits here.`, {
      label: "Try again",
      run: () => void this.deliver(edit, what, before).then((at) => at === "open" && tell("good", `${what}: done.`)),
    });
    return "waiting";
  }
}
