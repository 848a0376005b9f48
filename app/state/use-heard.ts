import { useLocation } from "react-router";
import { useStore } from "zustand";
import type { Instrument } from "../../core/instrument";
import { proposing } from "./proposing";
import { useInstrument } from "./use-session";

/** What a component needs of the instrument as it sounds now: with what is proposed to be placed, where something is. */
export function useHeard<T>(select: (instrument: Instrument) => T): T {
  const { pathname } = useLocation();
  const preview = useStore(proposing.store, (s) => (pathname === "/map" ? (s.proposal?.preview ?? null) : null));
  const own = useInstrument(select);
  return preview ? select(preview) : own;
}
