import { Stereo } from "../../dsp";
import { number } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** Width, balance and level. */
export const stereo = {
  kind: "stereo",
  role: "effect",
  label: "Width and level",
  help: "How wide, where and how loud.",
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
      help: "0 % is the same on both sides, 100 % as it was, 200 % only what differs.",
    }),
    number({
      id: "balance",
      label: "Balance",
      unit: "pan",
      min: -1,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Takes the other side down.",
    }),
    number({
      id: "level",
      label: "Level",
      unit: "decibels",
      min: -60,
      max: 24,
      default: 0,
      mod: "linear",
      help: "Louder or softer.",
    }),
  ],
  block: () => {
    const unit = new Stereo();
    return { unit, tune: (read) => unit.tune(read("width"), read("balance"), read("level")) };
  },
} as const satisfies UnitSpec;
