import { number } from "../number";
import type { UnitSpec } from "../unit";

/** The convolution effect: a recorded room round the whole instrument. Its impulse is the unit's sample. */
export const convolution = {
  kind: "convolution",
  role: "effect",
  label: "Recorded room",
  help: "The room of a recorded impulse round the whole instrument.",
  params: [
    number({
      id: "mix",
      label: "Amount",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.25,
      mod: "linear",
      help: "How much of the room is heard.",
    }),
    number({
      id: "delay",
      label: "Pre-delay",
      unit: "seconds",
      min: 0,
      max: 0.5,
      default: 0,
      taper: "square",
      help: "Time until the room answers.",
    }),
  ],
} as const satisfies UnitSpec;
