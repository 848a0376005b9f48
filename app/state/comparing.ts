import { createStore } from "zustand/vanilla";
import { findUnit, type Instrument, setParam, together, unitsOf } from "../../core/instrument";
import { hearAs, showEngine } from "./engine";
import { LevelMatch } from "./level-match";
import { session } from "./session";
import { setView } from "./view";

interface Comparison {
  /** The unit that is compared, or a list of them; null for none. */
  readonly address: string | null;
  /** Whether the sound is heard without it now. */
  readonly without: boolean;
}

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
  readonly store = createStore<Comparison>(() => ({ address: null, without: false }));
  readonly match = new LevelMatch(() => this.store.getState().without);
  /** The instrument that is compared, by its id. */
  private of = "";

  /** Changes between the sound with a unit, or all of a list, and without; what was compared before no longer is. */
  toggle(address: string): void {
    // What is compared is all that is heard.
    setView({ measured: null });
    const { address: before, without } = this.store.getState();
    const id = session.instrument?.id ?? "";
    if (before === address && this.of === id) {
      this.match.turn();
      this.store.setState({ without: !without });
    } else {
      this.of = id;
      this.match.begin();
      this.store.setState({ address, without: true });
    }
    showEngine();
  }

  /** Ends comparing: the sound is as the document says. */
  end(): void {
    this.match.end();
    if (this.store.getState().address === null) return;
    this.store.setState({ address: null, without: false });
    showEngine();
  }

  /** What is to be heard of an instrument. */
  heard(instrument: Instrument): Instrument {
    const { address, without } = this.store.getState();
    // Another instrument may have something at the same address.
    if (address === null || !without || instrument.id !== this.of) return instrument;
    const bare = withoutUnits(instrument, address);
    return bare === instrument ? instrument : this.match.trimmed(bare);
  }
}

export const comparing = new Comparing();
hearAs((instrument) => comparing.heard(instrument));
