import { TruePeakLimiter } from "../../dsp";
import { number } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** Keeps what is loud below a ceiling, also between frames. */
export const limiter = {
  kind: "limiter",
  role: "effect",
  label: "Limiter",
  help: "True-peak limiter with look-ahead; delays the sound by 2.5 ms.",
  places: BUSES,
  params: [
    ON,
    number({
      id: "drive",
      label: "Drive",
      unit: "decibels",
      min: 0,
      max: 24,
      default: 0,
      mod: "linear",
      help: "Gain before limiting.",
    }),
    number({
      id: "ceiling",
      label: "Ceiling",
      unit: "decibels",
      min: -24,
      max: 0,
      default: -1,
      mod: "linear",
      help: "Highest true peak of the output.",
    }),
    number({
      id: "release",
      label: "Release",
      unit: "seconds",
      min: 0.005,
      max: 2,
      default: 0.1,
      taper: "log",
      mod: "octaves",
      help: "Time until gain recovers.",
    }),
  ],
  block: (rate) => {
    const unit = new TruePeakLimiter(rate);
    return { unit, tune: (read) => unit.tune(read("drive"), read("ceiling"), read("release")) };
  },
} as const satisfies UnitSpec;
