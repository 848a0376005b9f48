import { TruePeakLimiter } from "../../dsp";
import { number } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** Keeps what is loud below a ceiling, also between frames. */
export const limiter = {
  kind: "limiter",
  role: "effect",
  label: "Limiter",
  help: "Nothing is louder than its ceiling, not even between samples; it looks ahead, by which all is 2.5 ms later.",
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
      help: "How much louder all of it is before it is limited.",
    }),
    number({
      id: "ceiling",
      label: "Ceiling",
      unit: "decibels",
      min: -24,
      max: 0,
      default: -1,
      mod: "linear",
      help: "The loudest true peak.",
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
      help: "How fast it lets go.",
    }),
  ],
  block: (rate) => {
    const unit = new TruePeakLimiter(rate);
    return { unit, tune: (read) => unit.tune(read("drive"), read("ceiling"), read("release")) };
  },
} as const satisfies UnitSpec;
