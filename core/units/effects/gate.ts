import { Gate } from "../../dsp";
import { number, time } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

const SILENT = -80;

/** Lets pass what is loud. */
export const gate = {
  kind: "gate",
  role: "effect",
  label: "Gate",
  help: "Lets pass what is loud, and takes down what is soft: rests become silent, long rooms end sharply.",
  places: BUSES,
  links: "sum",
  linkedBy: "threshold",
  params: [
    ON,
    number({
      id: "threshold",
      label: "Threshold",
      unit: "decibels",
      min: -72,
      max: 0,
      default: -40,
      mod: "linear",
      help: "From this level on it opens.",
    }),
    number({
      id: "lower",
      label: "Closes below",
      unit: "decibels",
      min: 0,
      max: 24,
      default: 6,
      mod: "linear",
      help: "By how much the level must be below the threshold again before it closes, so that it doesn't flutter.",
    }),
    number({
      id: "range",
      label: "Closed",
      unit: "decibels",
      min: SILENT,
      max: 0,
      default: SILENT,
      mod: "linear",
      lowest: "silent",
      help: "What is left of the sound while it is closed.",
    }),
    number({
      id: "attack",
      label: "Opens in",
      unit: "seconds",
      min: 0.0001,
      max: 0.2,
      default: 0.001,
      taper: "log",
      mod: "octaves",
      help: "How fast it opens.",
    }),
    time("hold", "Stays open", 0.05, 2, "For how long it stays open once the level is low."),
    number({
      id: "release",
      label: "Closes in",
      unit: "seconds",
      min: 0.002,
      max: 3,
      default: 0.1,
      taper: "log",
      mod: "octaves",
      help: "How fast it closes.",
    }),
  ],
  block: (rate) => {
    const unit = new Gate(rate);
    return {
      unit,
      tune: (read) =>
        unit.tune(
          read("threshold"),
          read("lower"),
          read("range"),
          read("attack"),
          read("hold"),
          read("release"),
          read("range") <= SILENT,
        ),
    };
  },
} as const satisfies UnitSpec;
