import { useStore } from "zustand";
import type { Instrument } from "../../core/instrument";
import { session } from "./session";

/** The open instrument, or the version of it that is looked at. Used only below the shell's gate, where there always is one. */
export function useInstrument(): Instrument {
  const instrument = useStore(session.store, (s) => s.looking?.instrument ?? s.history?.present);
  if (!instrument) throw new RangeError("no instrument is open here");
  return instrument;
}
