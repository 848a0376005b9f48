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
  help: "Noise gate: mutes or lowers what is below the threshold.",
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
      help: "Level at which the gate opens.",
    }),
    number({
      id: "hysteresis",
      label: "Hysteresis",
      unit: "decibels",
      min: 0,
      max: 24,
      default: 6,
      mod: "linear",
      help: "Distance below the threshold at which the gate closes, so that it doesn't chatter.",
    }),
    number({
      id: "range",
      label: "Range",
      unit: "decibels",
      min: SILENT,
      max: 0,
      default: SILENT,
      mod: "linear",
      lowest: "silent",
      help: "Gain while closed.",
    }),
    number({
      id: "attack",
      label: "Attack",
      unit: "seconds",
      min: 0.0001,
      max: 0.2,
      default: 0.001,
      taper: "log",
      mod: "octaves",
      help: "Time to open.",
    }),
    time("hold", "Hold", 0.05, 2, "Time the gate stays open after the level has fallen."),
    number({
      id: "release",
      label: "Release",
      unit: "seconds",
      min: 0.002,
      max: 3,
      default: 0.1,
      taper: "log",
      mod: "octaves",
      help: "Time to close.",
    }),
  ],
  block: (rate) => {
    const unit = new Gate(rate);
    return {
      unit,
      tune: (read) =>
        unit.tune(
          read("threshold"),
          read("hysteresis"),
          read("range"),
          read("attack"),
          read("hold"),
          read("release"),
          read("range") <= SILENT,
        ),
    };
  },
} as const satisfies UnitSpec;
