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
  help: "How the level goes from silence to full.",
} as const;

const fade = <I extends string>(kind: I, label: string, seconds: number, help: string) =>
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
export const fadeIn = fade("fadeIn", "Fade in", 0.01, "How long the sound takes to come up from silence.");
/** A fade at the end of a slice. */
export const fadeOut = fade("fadeOut", "Fade out", 0.1, "How long the sound takes to die away at its end.");

/** A change of level, by hand or by normalising. */
export const gain = {
  kind: "gain",
  role: "treatment",
  label: "Gain",
  help: "Makes the sound louder or softer.",
  params: [
    number({
      id: "level",
      label: "Level",
      unit: "decibels",
      min: -60,
      max: 60,
      default: 0,
      help: "How much louder or softer.",
    }),
  ],
} as const satisfies UnitSpec;

/** Takes a constant offset away. */
export const offset = {
  kind: "offset",
  role: "treatment",
  label: "Remove DC",
  help: "Takes away a constant offset, so that the sound swings about zero.",
  params: [],
} as const satisfies UnitSpec;

/** Plays the sound backwards. */
export const reverse = {
  kind: "reverse",
  role: "treatment",
  label: "Reverse",
  help: "Turns the sound round.",
  params: [],
} as const satisfies UnitSpec;

/** Lowers the room by its learnt noise profile. */
export const denoise = {
  kind: "denoise",
  role: "treatment",
  label: "Reduce noise",
  help: "Lowers what sounds like the room alone, as learnt from a quiet stretch of the take.",
  params: [
    number({
      id: "amount",
      label: "Amount",
      unit: "decibels",
      min: 0,
      max: 40,
      default: 12,
      help: "How far the noise is lowered; gentle amounts leave no traces.",
    }),
    number({
      id: "above",
      label: "Margin",
      unit: "decibels",
      min: 0,
      max: 24,
      default: 6,
      help: "How far above the learnt noise a frequency must stand to be left alone.",
    }),
    number({
      id: "from",
      label: "Learn from",
      unit: "seconds",
      min: 0,
      max: 100000,
      default: 0,
      help: "Where the quiet stretch of the take begins; with an end at 0 the quietest half second is found by itself.",
    }),
    number({
      id: "to",
      label: "Learn to",
      unit: "seconds",
      min: 0,
      max: 100000,
      default: 0,
      help: "Where the quiet stretch ends.",
    }),
  ],
} as const satisfies UnitSpec;

/** Makes the sound longer or shorter at the same pitch. */
export const stretch = {
  kind: "stretch",
  role: "treatment",
  label: "Stretch",
  help: "Makes the sound longer or shorter without moving its pitch.",
  params: [
    number({
      id: "ratio",
      label: "Length",
      unit: "ratio",
      min: 0.25,
      max: 4,
      default: 1,
      taper: "log",
      help: "How many times as long it becomes.",
    }),
  ],
} as const satisfies UnitSpec;
