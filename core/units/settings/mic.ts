import { number } from "../number";
import type { UnitSpec } from "../unit";

/** A microphone: a fader for the zones that were recorded by it. */
export const mic = {
  kind: "mic",
  role: "mic",
  label: "Microphone",
  help: "Level and pan of everything one microphone recorded.",
  params: [
    number({
      id: "level",
      label: "Level",
      unit: "decibels",
      min: -60,
      max: 12,
      default: 0,
      mod: "linear",
      help: "Level of the microphone.",
    }),
    number({
      id: "pan",
      label: "Pan",
      unit: "pan",
      min: -1,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Pan of the microphone.",
    }),
  ],
} as const satisfies UnitSpec;
