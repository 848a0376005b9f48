import { number } from "../number";
import type { UnitSpec } from "../unit";

/** The layer strip: level, pan, how much velocity moves the level, and how many voices there may be. */
export const strip = {
  kind: "strip",
  role: "strip",
  label: "Layer",
  help: "Level and pan of the layer in the mix.",
  params: [
    number({
      id: "level",
      label: "Level",
      unit: "decibels",
      min: -60,
      max: 12,
      default: -6,
      mod: "linear",
      help: "Level of the layer.",
    }),
    number({
      id: "pan",
      label: "Pan",
      unit: "pan",
      min: -1,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Pan, constant power.",
    }),
    number({
      id: "mute",
      label: "Mute",
      unit: "switch",
      min: 0,
      max: 1,
      default: 0,
      help: "Mutes the layer; layers that take its sound still get it.",
    }),
    number({
      id: "velocity",
      label: "Velocity to level",
      unit: "decibels",
      min: 0,
      max: 60,
      default: 18,
      help: "Level difference between the softest and the hardest velocity.",
    }),
    number({
      id: "voices",
      label: "Voices",
      unit: "optional",
      min: 0,
      max: 512,
      default: 0,
      help: "Voice limit of the layer; none: the instrument's limit.",
    }),
  ],
} as const satisfies UnitSpec;
