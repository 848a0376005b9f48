import { Reverb } from "../../dsp";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** The reverb effect: a feedback delay network (Jot and Chaigne, 1991). */
export const reverb = {
  kind: "reverb",
  role: "effect",
  label: "Reverb",
  help: "Algorithmic reverb.",
  places: BUSES,
  params: [
    ON,
    {
      type: "number",
      id: "mix",
      label: "Mix",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.15,
      taper: "linear",
      mod: "linear",
      help: "Balance of dry sound and reverb.",
    },
    {
      type: "number",
      id: "size",
      label: "Size",
      unit: "percent",
      min: 0.2,
      max: 1,
      default: 0.6,
      taper: "linear",
      mod: "none",
      help: "Room size.",
    },
    {
      type: "number",
      id: "decay",
      label: "Decay",
      unit: "seconds",
      min: 0.1,
      max: 20,
      default: 1.4,
      taper: "log",
      mod: "none",
      help: "Reverb time (RT60).",
    },
    {
      type: "number",
      id: "damping",
      label: "Damping",
      unit: "hertz",
      min: 500,
      max: 20000,
      default: 6000,
      taper: "log",
      mod: "none",
      help: "Frequency above which the reverb decays faster.",
    },
  ],
  block: (rate) => {
    const unit = new Reverb(rate);
    return { unit, tune: (read) => unit.tune(read("mix"), read("size"), read("decay"), read("damping")) };
  },
} as const satisfies UnitSpec;
