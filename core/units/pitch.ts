import { number } from "./number";

/** How a source stands to the keys: its pitch is that of the key, moved by these. */
export const PITCH = [
  number({
    id: "transpose",
    label: "Transpose",
    unit: "semitones",
    min: -24,
    max: 24,
    default: 0,
    mod: "linear",
    help: "Layer pitch in semitones.",
  }),
  number({
    id: "fine",
    label: "Fine",
    unit: "cents",
    min: -100,
    max: 100,
    default: 0,
    mod: "linear",
    help: "Layer pitch in cents; the usual target for vibrato.",
  }),
] as const;
