import { time } from "../number";
import { PITCH } from "../pitch";
import type { UnitSpec } from "../unit";

/** The sample source: plays the zone that answers a note. */
export const samples = {
  kind: "samples",
  role: "source",
  label: "Samples",
  help: "Plays the recorded samples that are mapped to the keys.",
  places: ["source"],
  params: [
    ...PITCH,
    time("start", "Start", 0, 5, "How much of the beginning each note leaves out: softer, less pluck."),
  ],
} as const satisfies UnitSpec;
