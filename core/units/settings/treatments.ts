import { number } from "../number";
import type { UnitSpec } from "../unit";

const shape = {
  type: "choice",
  id: "shape",
  label: "Shape",
  choices: [
    { id: "smooth", label: "Smooth" },
    { id: "straight", label: "Straight" },
    { id: "power", label: "Equal power" },
    { id: "slow", label: "Slow at first" },
  ],
  default: "smooth",
  help: "Curve of the fade.",
} as const;

const fade = <const I extends string>(kind: I, label: string, seconds: number, help: string) =>
  ({
    kind,
    role: "treatment",
    label,
    help,
    params: [
      number({ id: "time", label: "Time", unit: "seconds", min: 0, max: 10, default: seconds, taper: "square", help }),
      shape,
    ],
  }) as const satisfies UnitSpec;

/** A fade at the beginning of a slice; a long one takes the attack away. */
export const fadeIn = fade("fadeIn", "Fade in", 0.01, "Length of the fade-in.");
/** A fade at the end of a slice. */
export const fadeOut = fade("fadeOut", "Fade out", 0.1, "Length of the fade-out.");

/** A change of level, by hand or by normalising. */
export const gain = {
  kind: "gain",
  role: "treatment",
  label: "Gain",
  help: "Changes the level.",
  params: [
    number({
      id: "level",
      label: "Level",
      unit: "decibels",
      min: -60,
      max: 60,
      default: 0,
      help: "Gain.",
    }),
  ],
} as const satisfies UnitSpec;

/** Takes a constant offset away. */
export const offset = {
  kind: "offset",
  role: "treatment",
  label: "Remove DC",
  help: "Removes a constant offset.",
  params: [],
} as const satisfies UnitSpec;

/** Plays the sound backwards. */
export const reverse = {
  kind: "reverse",
  role: "treatment",
  label: "Reverse",
  help: "Plays the sound backward.",
  params: [],
} as const satisfies UnitSpec;

/** Lowers the room by its learnt noise profile. */
export const denoise = {
  kind: "denoise",
  role: "treatment",
  label: "Reduce noise",
  help: "Noise reduction, learnt from a quiet stretch of the take.",
  params: [
    number({
      id: "reduction",
      label: "Reduction",
      unit: "decibels",
      min: 0,
      max: 40,
      default: 12,
      help: "Noise reduction; gentle amounts leave no artefacts.",
    }),
    number({
      id: "threshold",
      label: "Threshold",
      unit: "decibels",
      min: 0,
      max: 24,
      default: 6,
      help: "Level above the learnt noise from which a frequency is kept.",
    }),
    number({
      id: "learnFrom",
      label: "Learn from",
      unit: "seconds",
      min: 0,
      max: 100000,
      default: 0,
      help: "Start of the quiet stretch; with an end at 0 the quietest half second is used.",
    }),
    number({
      id: "learnTo",
      label: "Learn to",
      unit: "seconds",
      min: 0,
      max: 100000,
      default: 0,
      help: "End of the quiet stretch.",
    }),
  ],
} as const satisfies UnitSpec;

/** Makes the sound longer or shorter at the same pitch. */
export const stretch = {
  kind: "stretch",
  role: "treatment",
  label: "Stretch",
  help: "Time-stretch at the same pitch.",
  params: [
    number({
      id: "ratio",
      label: "Length",
      unit: "ratio",
      min: 0.25,
      max: 4,
      default: 1,
      taper: "log",
      help: "Length as a multiple.",
    }),
  ],
} as const satisfies UnitSpec;
