import { gainOf } from "../../audio";
import { number } from "../number";
import { ON } from "../on";
import { both, type UnitSpec } from "../unit";

const OFF = -60;

/** Another layer's sound, note by note: into what stands behind it. */
export const feed = {
  kind: "feed",
  role: "stage",
  label: "Layer input",
  help: "Adds another layer's sound, voice by voice: to excite a resonator, or to process two layers as one.",
  places: ["stage"],
  links: "notes",
  linkedBy: "level",
  params: [
    ON,
    number({
      id: "level",
      label: "Level",
      unit: "decibels",
      min: OFF,
      max: 24,
      default: 0,
      mod: "linear",
      lowest: "off",
      help: "Level of the other layer, behind its envelope and level.",
    }),
  ],
  cell: {
    kernel: "feed",
    tune: (read, out) => both(out, 0, read("level") <= OFF ? 0 : gainOf(read("level"))),
  },
} as const satisfies UnitSpec;
