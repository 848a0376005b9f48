import { Crusher } from "../../dsp";
import { mix, number } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** Coarse steps and held values. */
export const crusher = {
  kind: "crusher",
  role: "effect",
  label: "Crusher",
  help: "Coarse like an old machine: fewer bits, a lower rate.",
  places: BUSES,
  params: [
    ON,
    mix(1, "From the sound as it was to the coarse one."),
    number({
      id: "bits",
      label: "Bits",
      unit: "count",
      min: 1,
      max: 16,
      default: 8,
      mod: "linear",
      help: "Into how many steps the level is cut.",
    }),
    number({
      id: "rate",
      label: "Rate",
      unit: "hertz",
      min: 200,
      max: 48000,
      default: 12000,
      taper: "log",
      mod: "octaves",
      help: "How often a value is taken.",
    }),
  ],
  block: (rate) => {
    const unit = new Crusher(rate);
    return { unit, tune: (read) => unit.tune(read("mix"), read("bits"), read("rate")) };
  },
} as const satisfies UnitSpec;
