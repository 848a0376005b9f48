import type { UnitSpec } from "../unit";

/** A macro: one dial of the player's that moves several parameters through routes. */
export const macro = {
  kind: "macro",
  role: "macro",
  label: "Macro",
  help: "Dial that moves every parameter routed from it.",
  params: [
    {
      type: "number",
      id: "value",
      label: "Value",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      taper: "linear",
      mod: "none",
      help: "Position of the dial.",
    },
  ],
} as const satisfies UnitSpec;
