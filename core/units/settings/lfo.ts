import { sync } from "../beat";
import { number, time } from "../number";
import type { UnitSpec } from "../unit";

/** A low-frequency oscillator. Its drawn shape is the unit's curve, over one cycle. */
export const lfo = {
  kind: "lfo",
  role: "lfo",
  label: "LFO",
  help: "Low-frequency oscillator.",
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
        { id: "sampleAndHold", label: "Sample and hold" },
        { id: "smooth", label: "Smooth random" },
        { id: "drawn", label: "Drawn" },
      ],
      default: "sine",
      help: "Waveform.",
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
      help: "Speed in cycles per second, with sync off.",
    }),
    sync("Length of one cycle as a note value of the tempo."),
    number({
      id: "phase",
      label: "Phase",
      unit: "degrees",
      min: 0,
      max: 360,
      default: 0,
      mod: "linear",
      help: "Start phase, against the note or the beat.",
    }),
    {
      type: "choice",
      id: "retrigger",
      label: "Retrigger",
      choices: [
        { id: "note", label: "Every note" },
        { id: "firstNote", label: "First note" },
        { id: "free", label: "Free-running" },
      ],
      default: "note",
      help: "Every note: one for each note. First note: one for all, from the first note of a phrase. Free-running: one for all, never restarted.",
    },
    time("delay", "Delay", 0, 10, "Time before the LFO starts."),
    time("fadeIn", "Fade-in", 0, 10, "Time to reach full depth."),
  ],
} as const satisfies UnitSpec;
