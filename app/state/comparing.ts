import { createStore } from "zustand/vanilla";
import { findUnit, type Instrument, setParam, together, unitsOf } from "../../core/instrument";
import { hearAs, showEngine } from "./engine";
import { measuring } from "./measuring";
import { session } from "./session";
import { type Side, trimOf } from "./trim-of";
import { setView } from "./view";

interface Comparison {
  /** The unit that is compared, or a list of them; null for none. */
  readonly address: string | null;
  /** Whether the sound is heard without it now. */
  readonly without: boolean;
  readonly sides: { readonly with: Side; readonly without: Side };
  /** Decibels by which the sound without the unit is made louder, so that both are as loud as each other. */
  readonly trim: number;
}

const NONE: Side = { power: 0, looks: 0 };
const FRESH = { sides: { with: NONE, without: NONE }, trim: 0 };
/** Looks after a change that are still of the sound before: the loudness is that of the last 400 ms. */
const STALE = 8;
/** Looks over which the mean is taken at the most: three seconds. */
const MOST_LOOKS = 50;
/** Softest loudness that counts. */
const SOFTEST = -60;

/** An instrument with a unit, or all of a list, switched off. */
function withoutUnits(instrument: Instrument, address: string): Instrument {
  const units = unitsOf(instrument, address)?.map((u) => `${address}/${u.id}`) ?? [address];
  const edits = units
    .filter((a) => findUnit(instrument, a)?.params.on !== undefined)
    .map((a) => setParam(instrument, `${a}/on`, 0));
  return edits.length === 0 ? instrument : together("", edits).apply(instrument);
}

/** Compares the sound with a unit and without it, as loud as each other; nothing of it is in the document. */
class Comparing {
  readonly store = createStore<Comparison>(() => ({ address: null, without: false, ...FRESH }));
  private stale = 0;
  /** The instrument that is compared, by its id. */
  private of = "";
  private stop: (() => void) | null = null;

  /** Changes between the sound with a unit, or all of a list, and without; what was compared before no longer is. */
  toggle(address: string): void {
    // What is compared is all that is heard.
    setView({ measured: null });
    const { address: before, without } = this.store.getState();
    const id = session.instrument?.id ?? "";
    if (before === address && this.of === id) this.set({ without: !without });
    else {
      this.of = id;
      this.set({ address, without: true, ...FRESH });
    }
    this.stop ??= measuring.show(({ measured }) => this.take(measured.loudness));
  }

  /** Ends comparing: the sound is as the document says. */
  end(): void {
    this.stop?.();
    this.stop = null;
    if (this.store.getState().address !== null) this.set({ address: null, without: false, ...FRESH });
  }

  /** What is to be heard of an instrument. */
  heard(instrument: Instrument): Instrument {
    const { address, without, trim } = this.store.getState();
    // Another instrument may have something at the same address.
    if (address === null || !without || instrument.id !== this.of) return instrument;
    const bare = withoutUnits(instrument, address);
    if (bare === instrument) return instrument;
    return setParam(bare, "play/level", Number(bare.play.params.level) + trim).apply(bare);
  }

  private set(change: Partial<Comparison>): void {
    this.stale = STALE;
    this.store.setState(change);
    showEngine();
  }

  private take(loudness: number): void {
    if (this.stale > 0) {
      this.stale--;
      return;
    }
    if (loudness < SOFTEST) return;
    const { without, sides, trim } = this.store.getState();
    const side = without ? "without" : "with";
    const { power, looks } = sides[side];
    // What the trim has added isn't the unit's doing.
    const now = 10 ** ((loudness - (without ? trim : 0)) / 10);
    const share = 1 / Math.min(MOST_LOOKS, looks + 1);
    const next = { ...sides, [side]: { power: power + share * (now - power), looks: looks + 1 } };
    this.store.setState({ sides: next });
    const wanted = trimOf(next);
    // In small steps it would be sent again and again.
    if (wanted === null || Math.abs(wanted - trim) < 0.2) return;
    this.store.setState({ trim: wanted });
    if (without) showEngine();
  }
}

export const comparing = new Comparing();
hearAs((instrument) => comparing.heard(instrument));
