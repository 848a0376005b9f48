import { Drive, type DriveCurve } from "../../dsp";
import { number } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

const CURVES = [
  { id: "soft", label: "Soft" },
  { id: "hard", label: "Hard" },
  { id: "fold", label: "Folded back" },
] as const satisfies readonly { readonly id: DriveCurve; readonly label: string }[];

/** Saturation without aliases. */
export const drive = {
  kind: "drive",
  role: "effect",
  label: "Drive",
  help: "Saturates, clips or folds the wave, as loud as before.",
  places: BUSES,
  params: [
    ON,
    number({
      id: "drive",
      label: "Drive",
      unit: "decibels",
      min: 0,
      max: 36,
      default: 12,
      mod: "linear",
      help: "How hard it is driven; the level stays about what it was.",
    }),
    {
      type: "choice",
      id: "curve",
      label: "Curve",
      choices: CURVES,
      default: "soft",
      help: "What becomes of what is too loud: rounded, cut off, or folded back.",
    },
    number({
      id: "tone",
      label: "Tone",
      unit: "hertz",
      min: 500,
      max: 20000,
      default: 12000,
      taper: "log",
      mod: "octaves",
      help: "Takes off what it adds above.",
    }),
  ],
  block: (rate, kernels) => {
    const unit = new Drive(rate, kernels);
    return { unit, tune: (read) => unit.tune(read("drive"), CURVES[read("curve")]?.id ?? "soft", read("tone")) };
  },
} as const satisfies UnitSpec;
