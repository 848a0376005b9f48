import { useEffect } from "react";
import { findUnit, type Instrument } from "../../core/instrument";
import { tapping } from "./tapping";
import { useInstrument } from "./use-session";
import { setView, useView } from "./view";

/** Whether a row or a unit is there. */
const isThere = (instrument: Instrument, address: string): boolean =>
  instrument.layers.some((l) => address === `layers/${l.id}`) ||
  instrument.sends.some((s) => address === `sends/${s.id}`) ||
  findUnit(instrument, address) !== null;

/** The row or unit that the measures look at; null: all that is heard, as where what was chosen is gone. */
export function useMeasured(): string | null {
  const wanted = useView((v) => v.measured);
  const there = useInstrument((i) => wanted !== null && isThere(i, wanted));
  const measured = there ? wanted : null;
  useEffect(() => {
    if (measured !== wanted) setView({ measured });
  }, [measured, wanted]);
  // As long as the measures are open they say what is listened to, and be it the whole.
  useEffect(() => tapping.want(measured, true), [measured]);
  return measured;
}
