import { number, time } from "../number";
import type { UnitSpec } from "../unit";

/** The sample source: plays the zone that answers a note. */
export const samples = {
  kind: "samples",
  role: "source",
  label: "Samples",
  help: "Plays the recorded samples that are mapped to the keys.",
  places: ["source"],
  params: [
    number({
      id: "transpose",
      label: "Transpose",
      unit: "semitones",
      min: -24,
      max: 24,
      default: 0,
      mod: "linear",
      help: "Moves the pitch of the whole layer.",
    }),
    number({
      id: "fine",
      label: "Fine",
      unit: "cents",
      min: -100,
      max: 100,
      default: 0,
      mod: "linear",
      help: "Moves the pitch of the whole layer by hundredths of a semitone; vibrato goes here.",
    }),
    time("start", "Start", 0, 5, "How much of the beginning each note leaves out: softer, less pluck."),
  ],
} as const satisfies UnitSpec;
