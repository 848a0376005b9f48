import { Drive, type DriveCurve } from "../../dsp";
import { number } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

const CURVES = [
  { id: "soft", label: "Soft" },
  { id: "hard", label: "Hard" },
  { id: "fold", label: "Fold" },
] as const satisfies readonly { readonly id: DriveCurve; readonly label: string }[];

/** Saturation without aliases. */
export const drive = {
  kind: "drive",
  role: "effect",
  label: "Drive",
  help: "Distortion: saturates, clips or folds, at matched level.",
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
      help: "Amount of distortion, at matched level.",
    }),
    {
      type: "choice",
      id: "curve",
      label: "Curve",
      choices: CURVES,
      default: "soft",
      help: "Shape of the distortion: saturated, clipped or folded.",
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
      help: "High cut after the distortion.",
    }),
  ],
  block: (rate, kernels) => {
    const unit = new Drive(rate, kernels);
    return { unit, tune: (read) => unit.tune(read("drive"), CURVES[read("curve")]?.id ?? "soft", read("tone")) };
  },
} as const satisfies UnitSpec;
