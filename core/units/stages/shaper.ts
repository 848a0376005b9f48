import { gainOf } from "../../audio";
import { MIDDLE_C } from "../../dsp";
import { mix, number } from "../number";
import { ON } from "../on";
import { both, type UnitSpec } from "../unit";

/** The least drive in decibels. */
const LEAST = -24;

/** Bends each voice's wave by itself, so that chords stay clear. */
export const shaper = {
  kind: "shaper",
  role: "stage",
  label: "Waveshaper",
  help: "Waveshaping of each voice by itself, so that chords stay clear.",
  places: ["stage"],
  params: [
    ON,
    mix(1, "Balance of dry and shaped sound."),
    {
      type: "choice",
      id: "curve",
      label: "Curve",
      choices: [
        { id: "soft", label: "Soft" },
        { id: "hard", label: "Hard" },
        { id: "fold", label: "Sine fold" },
        { id: "triangle", label: "Triangle fold" },
        { id: "saw", label: "Saw wrap" },
        { id: "pulse", label: "Pulse" },
      ],
      default: "soft",
      help: "Shaping curve: soft or hard clipping, folding, wrapping, or a pulse.",
    },
    number({
      id: "drive",
      label: "Drive",
      unit: "decibels",
      min: -12,
      max: 48,
      default: 12,
      mod: "linear",
      help: "Drive into the curve, at matched level.",
    }),
    number({
      id: "bias",
      label: "Bias",
      unit: "percent",
      min: -1,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Asymmetry: adds even harmonics.",
    }),
    number({
      id: "lowNoteDrive",
      label: "Low-note drive",
      unit: "decibels",
      min: -12,
      max: 0,
      default: 0,
      mod: "linear",
      help: "Less drive with each octave below middle C.",
    }),
  ],
  cell: {
    kernel: "shaper",
    variant: (read) => read("curve"),
    pitched: true,
    tune: (read, out, pitch, rate) => {
      const below = Math.max(0, MIDDLE_C - (pitch + Math.log2(rate)));
      const drive = Math.max(LEAST, read("drive") + read("lowNoteDrive") * below);
      both(out, 0, gainOf(drive));
      both(out, 1, read("bias"));
      // A sound at −12 dB comes out about as loud as it went in.
      both(out, 2, drive > 0 ? gainOf(-drive * 0.6) : gainOf(-drive));
      both(out, 3, read("mix"));
    },
  },
} as const satisfies UnitSpec;
