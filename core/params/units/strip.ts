import type { UnitSpec } from "../spec";

/** The layer strip: level, pan and how much velocity moves the level. */
export const strip = {
  kind: "strip",
  role: "strip",
  label: "Layer",
  help: "Level and place of the layer in the mix.",
  params: [
    {
      type: "number",
      id: "level",
      label: "Level",
      unit: "decibels",
      min: -60,
      max: 12,
      default: -6,
      taper: "linear",
      mod: "linear",
      help: "Level of the layer.",
    },
    {
      type: "number",
      id: "pan",
      label: "Pan",
      unit: "pan",
      min: -1,
      max: 1,
      default: 0,
      taper: "linear",
      mod: "linear",
      help: "Place between left and right, by constant power.",
    },
    {
      type: "number",
      id: "velocity",
      label: "Velocity",
      unit: "decibels",
      min: 0,
      max: 60,
      default: 18,
      taper: "linear",
      mod: "none",
      help: "How much softer the softest velocity is than the hardest.",
    },
  ],
} as const satisfies UnitSpec;
