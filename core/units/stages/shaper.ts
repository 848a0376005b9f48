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
  label: "Shaper",
  help: "Bends the wave of each note by itself: warm, hard or folded, and chords stay clear.",
  places: ["stage"],
  params: [
    ON,
    mix(1, "How much of the bent wave is heard."),
    {
      type: "choice",
      id: "curve",
      label: "Curve",
      choices: [
        { id: "soft", label: "Soft" },
        { id: "hard", label: "Hard" },
        { id: "fold", label: "Sine, folded" },
        { id: "triangle", label: "Triangle, folded" },
        { id: "saw", label: "Saw, wrapped" },
        { id: "pulse", label: "Pulse" },
      ],
      default: "soft",
      help: "Soft: bends by and by. Hard: cut off. The others: an oscillator’s wave, along which the sound goes to and fro as far as it is driven.",
    },
    number({
      id: "drive",
      label: "Drive",
      unit: "decibels",
      min: -12,
      max: 48,
      default: 12,
      mod: "linear",
      help: "How hard the curve is driven; the level stays about the same.",
    }),
    number({
      id: "bias",
      label: "Bias",
      unit: "percent",
      min: -1,
      max: 1,
      default: 0,
      mod: "linear",
      help: "How far to one side the wave is pushed: even partials.",
    }),
    number({
      id: "tame",
      label: "Low notes",
      unit: "decibels",
      min: -12,
      max: 0,
      default: 0,
      mod: "linear",
      help: "How much less each octave below middle C is driven: low notes growl sooner than high ones.",
    }),
  ],
  cell: {
    kernel: "shaper",
    variant: (read) => read("curve"),
    pitched: true,
    tune: (read, out, pitch, rate) => {
      const below = Math.max(0, MIDDLE_C - (pitch + Math.log2(rate)));
      const drive = Math.max(LEAST, read("drive") + read("tame") * below);
      both(out, 0, gainOf(drive));
      both(out, 1, read("bias"));
      // A sound at −12 dB comes out about as loud as it went in.
      both(out, 2, drive > 0 ? gainOf(-drive * 0.6) : gainOf(-drive));
      both(out, 3, read("mix"));
    },
  },
} as const satisfies UnitSpec;
