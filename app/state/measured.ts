import { useEffect } from "react";
import { findUnit, type Instrument } from "../../core/instrument";
import { engine } from "./engine";
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
    engine.tap(measured);
  }, [measured, wanted]);
  // Without the measures everybody hears the whole.
  useEffect(() => () => engine.tap(null), []);
  return measured;
}
