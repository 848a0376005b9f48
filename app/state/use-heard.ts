import { useStore } from "zustand";
import type { Instrument } from "../../core/instrument";
import { heardNow } from "./engine";

/** What a component needs of the instrument as it sounds now: with what is proposed, without what is muted. The engine's numbers of zones count in this one. */
export const useHeard = <T>(select: (instrument: Instrument) => T): T =>
  useStore(heardNow, ({ instrument }) => {
    if (!instrument) throw new RangeError("no instrument is open here");
    return select(instrument);
  });
