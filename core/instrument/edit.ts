import type { Instrument } from "./instrument";

/** A change to the document that names itself. Edits with the same `merge` made in one gesture are one undo step. */
export interface Edit {
  readonly name: string;
  readonly apply: (instrument: Instrument) => Instrument;
  readonly merge?: string;
}
