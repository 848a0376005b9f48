import type { Instrument } from "./instrument";

/** A change to the document that names itself. Edits with the same `merge` made in one gesture are one undo step. */
export interface Edit {
  readonly name: string;
  readonly apply: (instrument: Instrument) => Instrument;
  readonly merge?: string;
  /** Whether each edit of one gesture begins from the document before the first, so that what one of them had to give up comes back with the next. */
  readonly anew?: boolean;
}
