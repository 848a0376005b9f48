import type { UnitSpec } from "../spec";

/** A low-frequency oscillator, started anew with each note. */
export const lfo = {
  kind: "lfo",
  role: "lfo",
  label: "LFO",
  help: "A slow movement, started anew with each note.",
  params: [
    {
      type: "choice",
      id: "shape",
      label: "Shape",
      choices: [
        { id: "sine", label: "Sine" },
        { id: "triangle", label: "Triangle" },
        { id: "saw", label: "Saw" },
        { id: "square", label: "Square" },
      ],
      default: "sine",
      help: "The form of the movement.",
    },
    {
      type: "number",
      id: "rate",
      label: "Rate",
      unit: "hertz",
      min: 0.02,
      max: 40,
      default: 5,
      taper: "log",
      mod: "none",
      help: "Cycles per second.",
    },
    {
      type: "number",
      id: "fade",
      label: "Fade-in",
      unit: "seconds",
      min: 0,
      max: 10,
      default: 0,
      taper: "square",
      mod: "none",
      help: "Time in which the movement grows to its full depth.",
    },
  ],
} as const satisfies UnitSpec;
