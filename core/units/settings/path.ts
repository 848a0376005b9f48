import { number } from "../number";
import type { UnitSpec } from "../unit";

/** A multi-point envelope: its points are the unit's curve (seconds and level). */
export const path = {
  kind: "path",
  role: "envelope",
  label: "Multi-stage envelope",
  help: "Envelope through points of your own, with a loop while the key is held.",
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
      help: "Playback speed of the envelope.",
    }),
    number({
      id: "loopStart",
      label: "Loop start",
      unit: "optional",
      min: 0,
      max: 64,
      default: 0,
      help: "First point of the loop while the key is held; none: it holds at the loop end.",
    }),
    number({
      id: "loopEnd",
      label: "Loop end",
      unit: "optional",
      min: 0,
      max: 64,
      default: 0,
      help: "Last point of the loop, or the point of sustain; none: it runs through.",
    }),
  ],
} as const satisfies UnitSpec;
