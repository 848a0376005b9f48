import type { UnitSpec } from "../spec";

/** The sample source: plays the zone that answers a note. */
export const samples = {
  kind: "samples",
  role: "source",
  label: "Samples",
  help: "Plays the recorded samples that are mapped to the keys.",
  params: [
    {
      type: "number",
      id: "transpose",
      label: "Transpose",
      unit: "semitones",
      min: -24,
      max: 24,
      default: 0,
      taper: "linear",
      mod: "linear",
      help: "Moves the pitch of the whole layer.",
    },
    {
      type: "number",
      id: "fine",
      label: "Fine",
      unit: "cents",
      min: -100,
      max: 100,
      default: 0,
      taper: "linear",
      mod: "linear",
      help: "Moves the pitch of the whole layer by hundredths of a semitone; vibrato goes here.",
    },
  ],
} as const satisfies UnitSpec;
