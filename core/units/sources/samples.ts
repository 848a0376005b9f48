import { time } from "../number";
import { PITCH } from "../pitch";
import type { UnitSpec } from "../unit";

/** The sample source: plays the zone that answers a note. */
export const samples = {
  kind: "samples",
  role: "source",
  label: "Samples",
  help: "Plays the samples mapped to the keys.",
  places: ["source"],
  params: [...PITCH, time("start", "Sample start", 0, 5, "Offset into the sample at note on: less attack.")],
} as const satisfies UnitSpec;
