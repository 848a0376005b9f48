import { Stereo } from "../../dsp";
import { number } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** Width, balance and level. */
export const stereo = {
  kind: "stereo",
  role: "effect",
  label: "Utility",
  help: "Stereo width, balance and level.",
  places: BUSES,
  params: [
    ON,
    number({
      id: "width",
      label: "Width",
      unit: "percent",
      min: 0,
      max: 2,
      default: 1,
      mod: "linear",
      help: "Stereo width: 0 % mono, 100 % unchanged, 200 % sides only.",
    }),
    number({
      id: "balance",
      label: "Balance",
      unit: "pan",
      min: -1,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Lowers the opposite side.",
    }),
    number({
      id: "level",
      label: "Level",
      unit: "decibels",
      min: -60,
      max: 24,
      default: 0,
      mod: "linear",
      help: "Gain.",
    }),
  ],
  block: () => {
    const unit = new Stereo();
    return { unit, tune: (read) => unit.tune(read("width"), read("balance"), read("level")) };
  },
} as const satisfies UnitSpec;
