import { type Instrument, newInstrument } from "../../core/instrument";
import { freshId } from "./ids";

const KEY = "vise-naming";

/** Keeps the pattern by which samples are named, for the instruments that are begun from now on. */
export const rememberNaming = (pattern: string): void => globalThis.localStorage?.setItem(KEY, pattern);

/** An empty instrument with the name pattern that was used last. */
export function freshInstrument(id = freshId()): Instrument {
  const made = newInstrument(id, "New instrument");
  const naming = globalThis.localStorage?.getItem(KEY);
  return naming ? { ...made, naming } : made;
}
