import { Compressor, MOST_AHEAD } from "../../dsp";
import { mix, number, time } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** Takes down what is loud. */
export const compressor = {
  kind: "compressor",
  role: "effect",
  label: "Compressor",
  help: "Dynamics: reduces level above a threshold.",
  places: BUSES,
  links: "sum",
  linkedBy: "threshold",
  params: [
    ON,
    mix(1, "Balance of dry and compressed sound."),
    number({
      id: "threshold",
      label: "Threshold",
      unit: "decibels",
      min: -60,
      max: 0,
      default: -18,
      mod: "linear",
      help: "Level above which gain is reduced.",
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
      help: "Decibels above the threshold that become one.",
    }),
    number({
      id: "knee",
      label: "Knee",
      unit: "decibels",
      min: 0,
      max: 24,
      default: 6,
      mod: "linear",
      help: "Range around the threshold over which compression sets in.",
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
      help: "Time until gain is reduced.",
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
      help: "Time until gain recovers.",
    }),
    time(
      "lookAhead",
      "Look-ahead",
      0,
      MOST_AHEAD,
      "Looks ahead by this time, so that attacks are caught; delays the sound by as much.",
    ),
    number({
      id: "makeUp",
      label: "Make-up",
      unit: "decibels",
      min: 0,
      max: 36,
      default: 0,
      mod: "linear",
      help: "Gain after compression.",
    }),
  ],
  block: (rate) => {
    const unit = new Compressor(rate);
    return {
      unit,
      tune: (read) => {
        unit.lookAhead(read("lookAhead"));
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
