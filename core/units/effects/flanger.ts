import { SweptDelay } from "../../dsp";
import { beat, swingRate } from "../beat";
import { mix, number, rate, spread, time } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** A very short delay that swings, with feedback. */
export const flanger = {
  kind: "flanger",
  role: "effect",
  label: "Flanger",
  help: "A copy that is hardly late: teeth wander through the spectrum.",
  places: BUSES,
  params: [
    ON,
    mix(0.5, "From the sound as it was to what is made of it."),
    rate(0.25),
    beat("A note value of one cycle, in the tempo."),
    time("time", "Delay", 0.003, 0.02, "How late the copy is in the middle of its swing."),
    time("depth", "Depth", 0.002, 0.01, "How far it swings either way."),
    number({
      id: "feedback",
      label: "Feedback",
      unit: "percent",
      min: -0.95,
      max: 0.95,
      default: 0.5,
      mod: "linear",
      help: "How much of the copy is copied again; below 0 upside down.",
    }),
    spread(45),
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
