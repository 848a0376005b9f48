import { Compressor, MOST_AHEAD } from "../../dsp";
import { mix, number, time } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** Takes down what is loud. */
export const compressor = {
  kind: "compressor",
  role: "effect",
  label: "Compressor",
  help: "Takes down what is loud, so that the whole can be louder.",
  places: BUSES,
  links: "sum",
  linkedBy: "threshold",
  params: [
    ON,
    mix(1, "From the sound as it was to the compressed one."),
    number({
      id: "threshold",
      label: "Threshold",
      unit: "decibels",
      min: -60,
      max: 0,
      default: -18,
      mod: "linear",
      help: "Above this level it is taken down.",
    }),
    number({
      id: "ratio",
      label: "Ratio",
      unit: "ratio",
      min: 1,
      max: 40,
      default: 4,
      taper: "log",
      mod: "octaves",
      help: "How many decibels above the threshold become one.",
    }),
    number({
      id: "knee",
      label: "Knee",
      unit: "decibels",
      min: 0,
      max: 24,
      default: 6,
      mod: "linear",
      help: "Over how many decibels it begins to.",
    }),
    number({
      id: "attack",
      label: "Attack",
      unit: "seconds",
      min: 0.0001,
      max: 0.5,
      default: 0.008,
      taper: "log",
      mod: "octaves",
      help: "How fast it takes hold.",
    }),
    number({
      id: "release",
      label: "Release",
      unit: "seconds",
      min: 0.005,
      max: 3,
      default: 0.15,
      taper: "log",
      mod: "octaves",
      help: "How fast it lets go.",
    }),
    time("ahead", "Look-ahead", 0, MOST_AHEAD, "So much earlier it takes hold, and so much later all of it is heard."),
    number({
      id: "makeUp",
      label: "Make-up",
      unit: "decibels",
      min: 0,
      max: 36,
      default: 0,
      mod: "linear",
      help: "Lifts all of it afterwards.",
    }),
  ],
  block: (rate) => {
    const unit = new Compressor(rate);
    return {
      unit,
      tune: (read) => {
        unit.lookAhead(read("ahead"));
        unit.tune(
          read("mix"),
          read("threshold"),
          read("ratio"),
          read("knee"),
          read("attack"),
          read("release"),
          read("makeUp"),
        );
      },
    };
  },
} as const satisfies UnitSpec;
