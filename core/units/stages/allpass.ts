import { allPasses, notches } from "../notches";
import { feedback, mix, number } from "../number";
import { ON } from "../on";
import { both, type UnitSpec } from "../unit";

/** All-passes in a row beside the sound; what moves them are routes. */
export const allpass = {
  kind: "allpass",
  role: "stage",
  label: "All-passes",
  help: "Notches in the spectrum of each note; LFOs and envelopes move them.",
  places: ["stage"],
  params: [
    ON,
    mix(0.5, "The notches are deepest in the middle."),
    notches,
    number({
      id: "centre",
      label: "Centre",
      unit: "hertz",
      min: 50,
      max: 12000,
      default: 900,
      taper: "log",
      mod: "octaves",
      help: "Around which frequency the notches stand.",
    }),
    feedback(0.3, "How sharp they are; below 0 upside down."),
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
