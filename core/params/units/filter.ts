import type { UnitSpec } from "../spec";

/** The state-variable filter stage (Zavalishin, 2012): 12 dB per octave. */
export const filter = {
  kind: "filter",
  role: "stage",
  label: "Filter",
  help: "A state-variable filter, 12 dB per octave.",
  params: [
    {
      type: "choice",
      id: "mode",
      label: "Mode",
      choices: [
        { id: "low", label: "Low pass" },
        { id: "band", label: "Band pass" },
        { id: "high", label: "High pass" },
        { id: "off", label: "Off" },
      ],
      default: "low",
      help: "Which side of the cutoff passes.",
    },
    {
      type: "number",
      id: "cutoff",
      label: "Cutoff",
      unit: "hertz",
      min: 20,
      max: 20000,
      default: 18000,
      taper: "log",
      mod: "octaves",
      help: "Where the filter begins to work.",
    },
    {
      type: "number",
      id: "resonance",
      label: "Resonance",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.1,
      taper: "linear",
      mod: "linear",
      help: "Emphasis at the cutoff: 0 % has none, 100 % nearly rings.",
    },
  ],
} as const satisfies UnitSpec;
