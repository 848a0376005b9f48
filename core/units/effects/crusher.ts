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
  help: "Bit and sample-rate reduction, as in early digital gear.",
  places: BUSES,
  params: [ON, mix(1, "Balance of dry and crushed sound."), bits("Bit depth."), taken("Sample rate.")],
  block: (rate) => {
    const unit = new Crusher(rate);
    return { unit, tune: (read) => unit.tune(read("mix"), read("bits"), read("rate")) };
  },
} as const satisfies UnitSpec;
