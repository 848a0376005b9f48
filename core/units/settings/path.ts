import { number } from "../number";
import type { UnitSpec } from "../unit";

/** A multi-point envelope: its points are the unit's curve (seconds and level). */
export const path = {
  kind: "path",
  role: "envelope",
  label: "Point envelope",
  help: "A course through points of your own, with a part that may go round while the key is held.",
  params: [
    number({
      id: "speed",
      label: "Speed",
      unit: "ratio",
      min: 0.05,
      max: 20,
      default: 1,
      taper: "log",
      mod: "octaves",
      help: "How fast it runs through its points.",
    }),
    number({
      id: "loopFrom",
      label: "Round from",
      unit: "optional",
      min: 0,
      max: 64,
      default: 0,
      help: "First point of the part that goes round while the key is held; none: it holds at the point below.",
    }),
    number({
      id: "loopTo",
      label: "Round to",
      unit: "optional",
      min: 0,
      max: 64,
      default: 0,
      help: "Last point of that part, or the point at which it holds; none: it runs through.",
    }),
  ],
} as const satisfies UnitSpec;
