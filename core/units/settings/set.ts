import { number } from "../number";
import type { UnitSpec } from "../unit";

/** A set of layers of which exactly one sounds. */
export const set = {
  kind: "set",
  role: "set",
  label: "Layer set",
  help: "Of the layers in it exactly one sounds.",
  params: [
    number({
      id: "chosen",
      label: "Chosen",
      unit: "count",
      min: 1,
      max: 64,
      default: 1,
      mod: "linear",
      help: "Which of its layers sounds, counted from the first; beyond the last it is the last.",
    }),
  ],
} as const satisfies UnitSpec;
