import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import {
  type FoundParam,
  findParam,
  findUnit,
  type Instrument,
  listSources,
  type SourceSpec,
  type Unit,
} from "../../core/instrument";
import { type SessionState, session } from "./session";

const shown = ({ looking, history }: SessionState): Instrument => {
  const instrument = looking?.instrument ?? history?.present;
  if (!instrument) throw new RangeError("no instrument is open here");
  return instrument;
};

/** The open instrument, or the version of it that is looked at, and how one hears of another: for what is the same outside the editor. */
export const INSTRUMENT_SHOWN = {
  get: (): Instrument => shown(session.store.getState()),
  subscribe: (changed: () => void): (() => void) => session.store.subscribe(changed),
};

/**
 * What a component needs of the open instrument, or of the version of it that is looked at: it is drawn anew only when `select` gives something else.
 * Used only below the shell's gate, where there always is an instrument.
 */
export const useInstrument = <T>(select: (instrument: Instrument) => T): T =>
  useStore(session.store, (s) => select(shown(s)));

/** The same for several things at once, as an object or a list: drawn anew when one of them is another. */
export const useInstrumentParts = <T>(select: (instrument: Instrument) => T): T =>
  useStore(
    session.store,
    useShallow((s: SessionState) => select(shown(s))),
  );

/** A parameter of the open instrument as it stands; null where there is none at the address. */
export const useParam = (address: string): FoundParam | null => useInstrument((i) => findParam(i, address));

/** A unit of the open instrument as it stands; null where there is none at the address. */
export const useUnit = (address: string): Unit | null => useInstrument((i) => findUnit(i, address));

/** The sources of modulation, as a list that stays as it is while only values change. */
export const useSources = (): readonly SourceSpec[] => useInstrument(listSources);
