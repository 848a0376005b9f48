import { Phaser } from "../../dsp";
import { beat, swingRate } from "../beat";
import { allPasses, notches } from "../notches";
import { feedback, mix, number, rate, spread } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** All-passes whose corner swings. */
export const phaser = {
  kind: "phaser",
  role: "effect",
  label: "Phaser",
  help: "Notches that wander through the spectrum.",
  places: BUSES,
  params: [
    ON,
    mix(0.5, "The notches are deepest in the middle."),
    notches,
    number({
      id: "centre",
      label: "Centre",
      unit: "hertz",
      min: 50,
      max: 8000,
      default: 800,
      taper: "log",
      mod: "octaves",
      help: "The middle of their way.",
    }),
    number({
      id: "depth",
      label: "Depth",
      unit: "octaves",
      min: 0,
      max: 4,
      default: 1.5,
      mod: "linear",
      help: "How far they wander either way.",
    }),
    rate(0.3),
    beat("A note value of one cycle, in the tempo."),
    feedback(0.3, "How sharp they are; below 0 upside down."),
    spread(30),
  ],
  block: (frames) => {
    const unit = new Phaser(frames);
    return {
      unit,
      tune: (read, tempo) =>
        unit.tune(
          read("mix"),
          allPasses(read("stages")),
          read("centre"),
          read("depth"),
          swingRate(read("rate"), read("beat"), tempo),
          read("feedback"),
          read("spread") / 360,
        ),
    };
  },
} as const satisfies UnitSpec;
