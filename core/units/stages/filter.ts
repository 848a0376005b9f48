import { number } from "../number";
import { ON } from "../on";
import type { UnitSpec } from "../unit";

/** The filter stage: state-variable, or a ladder that saturates (both after Zavalishin, 2012). */
export const filter = {
  kind: "filter",
  role: "stage",
  label: "Filter",
  help: "Lets a part of the spectrum pass.",
  places: ["stage"],
  params: [
    ON,
    {
      type: "choice",
      id: "mode",
      label: "Mode",
      choices: [
        { id: "low", label: "Low pass" },
        { id: "band", label: "Band pass" },
        { id: "high", label: "High pass" },
        { id: "notch", label: "Notch" },
        { id: "peak", label: "Peak" },
        { id: "off", label: "Off" },
      ],
      default: "low",
      help: "What passes: below, around or above the cutoff; all but what is around it; or that lifted by 12 dB.",
    },
    {
      type: "choice",
      id: "slope",
      label: "Slope",
      choices: [
        { id: "6", label: "6 dB/oct" },
        { id: "12", label: "12 dB/oct" },
        { id: "18", label: "18 dB/oct" },
        { id: "24", label: "24 dB/oct" },
      ],
      default: "12",
      help: "How steep low and high pass are; band, notch and peak take the nearest that they have.",
    },
    {
      type: "choice",
      id: "character",
      label: "Kind",
      choices: [
        { id: "clean", label: "Clean" },
        { id: "ladder", label: "Ladder, saturating" },
      ],
      default: "clean",
      help: "Clean never distorts; the ladder saturates, and rings by itself at full resonance.",
    },
    number({
      id: "cutoff",
      label: "Cutoff",
      unit: "hertz",
      min: 20,
      max: 20000,
      default: 18000,
      taper: "log",
      mod: "octaves",
      help: "Where the filter begins to work.",
    }),
    number({
      id: "resonance",
      label: "Resonance",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.1,
      mod: "linear",
      help: "Emphasis at the cutoff: 0 % has none, 100 % nearly rings (clean) or rings (ladder).",
    }),
    number({
      id: "drive",
      label: "Drive",
      unit: "decibels",
      min: 0,
      max: 36,
      default: 0,
      mod: "linear",
      help: "How hard the ladder is driven; the clean filter has none.",
    }),
  ],
} as const satisfies UnitSpec;
