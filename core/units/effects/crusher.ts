import { Crusher } from "../../dsp";
import { bits, taken } from "../coarseness";
import { mix } from "../number";
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
    bits("Into how many steps the level is cut."),
    taken("How often a value is taken."),
  ],
  block: (rate) => {
    const unit = new Crusher(rate);
    return { unit, tune: (read) => unit.tune(read("mix"), read("bits"), read("rate")) };
  },
} as const satisfies UnitSpec;
