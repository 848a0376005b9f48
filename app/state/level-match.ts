import { createStore } from "zustand/vanilla";
import { type Instrument, setParam } from "../../core/instrument";
import { showEngine } from "./engine";
import { measuring } from "./measuring";
import { type Side, trimOf } from "./trim-of";

interface Matched {
  readonly sides: { readonly with: Side; readonly without: Side };
  /** Decibels by which the other side is made louder, so that both are as loud as each other. */
  readonly trim: number;
}

const NONE: Side = { power: 0, looks: 0 };
const FRESH: Matched = { sides: { with: NONE, without: NONE }, trim: 0 };
/** Looks after a change that are still of the sound before: the loudness is that of the last 400 ms. */
const STALE = 8;
/** Looks over which the mean is taken at the most: three seconds. */
const MOST_LOOKS = 50;
/** Softest loudness that counts. */
const SOFTEST = -60;

/** Makes two sounds that are heard in turn as loud as each other, by what is measured while they sound. */
export class LevelMatch {
  readonly store = createStore<Matched>(() => FRESH);
  private stale = 0;
  private stop: (() => void) | null = null;

  /** `other`: whether the other side is heard now, the one that is trimmed. */
  constructor(private readonly other: () => boolean) {}

  /** Begins anew, with another pair. */
  begin(): void {
    this.store.setState(FRESH);
    this.turn();
    this.stop ??= measuring.show(({ measured }) => this.take(measured.loudness));
  }

  /** The other of the two is heard from now on. */
  turn(): void {
    this.stale = STALE;
  }

  end(): void {
    this.stop?.();
    this.stop = null;
    this.store.setState(FRESH);
  }

  /** The other side with its trim. */
  trimmed(instrument: Instrument): Instrument {
    const { trim } = this.store.getState();
    return trim === 0
      ? instrument
      : setParam(instrument, "play/level", Number(instrument.play.params.level) + trim).apply(instrument);
  }

  private take(loudness: number): void {
    if (this.stale > 0) {
      this.stale--;
      return;
    }
    if (loudness < SOFTEST) return;
    const { sides, trim } = this.store.getState();
    const other = this.other();
    const side = other ? "without" : "with";
    const { power, looks } = sides[side];
    // What the trim has added isn't the sound's doing.
    const now = 10 ** ((loudness - (other ? trim : 0)) / 10);
    const share = 1 / Math.min(MOST_LOOKS, looks + 1);
    const next = { ...sides, [side]: { power: power + share * (now - power), looks: looks + 1 } };
    this.store.setState({ sides: next });
    const wanted = trimOf(next);
    // In small steps it would be sent again and again.
    if (wanted === null || Math.abs(wanted - trim) < 0.2) return;
    this.store.setState({ trim: wanted });
    if (other) showEngine();
  }
}
