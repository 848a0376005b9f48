import { Phaser } from "../../dsp";
import { swingRate, sync } from "../beat";
import { allPasses, notches } from "../notches";
import { feedback, mix, number, rate, spread } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** All-passes whose corner swings. */
export const phaser = {
  kind: "phaser",
  role: "effect",
  label: "Phaser",
  help: "Phaser: notches that sweep through the spectrum.",
  places: BUSES,
  params: [
    ON,
    mix(0.5, "Balance of dry and phased sound; notches are deepest at 50 %."),
    notches,
    number({
      id: "centre",
      label: "Centre frequency",
      unit: "hertz",
      min: 50,
      max: 8000,
      default: 800,
      taper: "log",
      mod: "octaves",
      help: "Middle of the sweep.",
    }),
    number({
      id: "depth",
      label: "Depth",
      unit: "octaves",
      min: 0,
      max: 4,
      default: 1.5,
      mod: "linear",
      help: "Range of the sweep.",
    }),
    rate(0.3),
    sync("Length of one cycle as a note value of the tempo."),
    feedback(0.3, "Feedback: sharpness of the notches; below 0 inverted."),
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
          swingRate(read("rate"), read("sync"), tempo),
          read("feedback"),
          read("spread") / 360,
        ),
    };
  },
} as const satisfies UnitSpec;
