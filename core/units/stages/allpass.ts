import { allPasses, notches } from "../notches";
import { feedback, mix, number } from "../number";
import { ON } from "../on";
import { both, type UnitSpec } from "../unit";

/** All-passes in a row beside the sound; what moves them are routes. */
export const allpass = {
  kind: "allpass",
  role: "stage",
  label: "Phaser (per voice)",
  help: "All-pass stages in each voice: notches for LFOs and envelopes to move.",
  places: ["stage"],
  params: [
    ON,
    mix(0.5, "Balance of dry and wet sound; notches are deepest at 50 %."),
    notches,
    number({
      id: "centre",
      label: "Centre frequency",
      unit: "hertz",
      min: 50,
      max: 12000,
      default: 900,
      taper: "log",
      mod: "octaves",
      help: "Centre frequency of the notches.",
    }),
    feedback(0.3, "Feedback: sharpness of the notches; below 0 inverted."),
  ],
  cell: {
    kernel: "allpasses",
    ring: 0.02,
    most: () => 12,
    size: (read) => allPasses(read("stages")),
    tune: (read, out, _pitch, rate) => {
      const g = Math.tan(Math.PI * Math.min(0.45, read("centre") / rate));
      both(out, 0, g / (1 + g));
      both(out, 1, read("feedback"));
      both(out, 2, read("mix"));
    },
  },
} as const satisfies UnitSpec;
