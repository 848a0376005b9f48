import { SweptDelay } from "../../dsp";
import { beat, swingRate } from "../beat";
import { mix, number, rate, spread, time } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** A copy whose delay swings, as if others played along. */
export const chorus = {
  kind: "chorus",
  role: "effect",
  label: "Chorus",
  help: "A copy that is a little late and wavers: one becomes several.",
  places: BUSES,
  params: [
    ON,
    mix(0.5, "From the sound as it was to what is made of it."),
    rate(0.6),
    beat("A note value of one cycle, in the tempo."),
    time("time", "Delay", 0.012, 0.04, "How late the copy is in the middle of its swing."),
    time("depth", "Depth", 0.003, 0.02, "How far it swings either way."),
    number({
      id: "feedback",
      label: "Feedback",
      unit: "percent",
      min: -0.95,
      max: 0.95,
      default: 0,
      mod: "linear",
      help: "How much of the copy is copied again; below 0 upside down.",
    }),
    spread(90),
  ],
  block: (frames) => {
    const unit = new SweptDelay(frames);
    return {
      unit,
      tune: (read, tempo) =>
        unit.tune(
          read("mix"),
          read("time"),
          read("depth"),
          swingRate(read("rate"), read("beat"), tempo),
          read("feedback"),
          read("spread") / 360,
        ),
    };
  },
} as const satisfies UnitSpec;
