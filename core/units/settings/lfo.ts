import { beat } from "../beat";
import { number, time } from "../number";
import type { UnitSpec } from "../unit";

/** A low-frequency oscillator. Its drawn shape is the unit's curve, over one cycle. */
export const lfo = {
  kind: "lfo",
  role: "lfo",
  label: "LFO",
  help: "A slow movement.",
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
        { id: "held", label: "Random, held" },
        { id: "smooth", label: "Random, smooth" },
        { id: "drawn", label: "Drawn" },
      ],
      default: "sine",
      help: "The form of the movement.",
    },
    number({
      id: "rate",
      label: "Rate",
      unit: "hertz",
      min: 0.02,
      max: 40,
      default: 5,
      taper: "log",
      mod: "octaves",
      help: "Cycles per second, where it doesn't follow the tempo; a route moves it either way.",
    }),
    beat("A note value of one cycle, in the tempo."),
    number({
      id: "phase",
      label: "Phase",
      unit: "degrees",
      min: 0,
      max: 360,
      default: 0,
      mod: "linear",
      help: "Where in its cycle it begins, against the note or the beat.",
    }),
    {
      type: "choice",
      id: "scope",
      label: "Runs",
      choices: [
        { id: "note", label: "For each note" },
        { id: "phrase", label: "From the first note" },
        { id: "free", label: "All the time" },
      ],
      default: "note",
      help: "Anew with each note; once for all, from the first note of a phrase; or once for all, without end.",
    },
    time("delay", "Delay", 0, 10, "Time before it begins to move."),
    time("fade", "Fade-in", 0, 10, "Time in which the movement grows to its full depth."),
  ],
} as const satisfies UnitSpec;
