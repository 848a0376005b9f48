import type { BandSettings } from "../../core/dsp";
import type { Unit } from "../../core/instrument";

/** The numbers of an equaliser's bands. */
export const BANDS = [1, 2, 3, 4, 5, 6, 7, 8] as const;

/** What each band of an equaliser is set to. */
export const bandsOf = ({ params }: Unit): BandSettings[] =>
  BANDS.map((n) => ({
    kind: String(params[`kind${n}`]) as BandSettings["kind"],
    frequency: Number(params[`frequency${n}`]),
    gain: Number(params[`gain${n}`]),
    q: Number(params[`q${n}`]),
  }));

/** Whether a gain makes a difference to a kind of band. */
export const hasGain = (kind: BandSettings["kind"]): boolean =>
  kind === "bell" || kind === "lowShelf" || kind === "highShelf";
