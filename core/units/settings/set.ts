import { number } from "../number";
import type { UnitSpec } from "../unit";

/** A set of layers of which exactly one sounds. */
export const set = {
  kind: "set",
  role: "set",
  label: "Layer set",
  help: "Group of layers of which exactly one sounds.",
  params: [
    number({
      id: "selected",
      label: "Selected",
      unit: "count",
      min: 1,
      max: 64,
      default: 1,
      mod: "linear",
      help: "Number of the layer that sounds; beyond the last it is the last.",
    }),
  ],
} as const satisfies UnitSpec;
