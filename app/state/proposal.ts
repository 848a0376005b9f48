import { createStore } from "zustand/vanilla";
import type { Instrument, Sample } from "../../core/instrument";
import type { EvidentSound, PlaceInto, Placement, Reading, SpreadOptions } from "../../core/mapping";
import type { Evidence } from "../workers/audio/reading";

/** What would be placed, and why: nothing of it is in the document before it is placed. */
export interface Proposal {
  /** The instrument in which it would be placed, by its id. */
  readonly of: string;
  readonly samples: readonly Sample[];
  readonly sounds: readonly EvidentSound[];
  /** The ways in which the names can be read, and which is shown; −1: names say nothing. */
  readonly readings: readonly Reading[];
  readonly shown: number;
  readonly evidence: Evidence;
  /** Samples of which the sound is believed although the reading says otherwise. */
  readonly heard: ReadonlySet<string>;
  /** Octaves by which all is moved. */
  readonly octaves: number;
  readonly into: PlaceInto;
  /** Whether each sound gets a key of its own, whatever its pitch. */
  readonly kit: boolean;
  readonly spread: SpreadOptions;
  readonly placement: Placement;
  /** The instrument as it would be. */
  readonly preview: Instrument;
}

/** What is proposed just now, by itself, so that whoever only says so needs none of what works it out. */
export const proposals = createStore<{ readonly proposal: Proposal | null }>(() => ({ proposal: null }));
