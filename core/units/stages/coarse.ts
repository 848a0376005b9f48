import { MIDDLE_C } from "../../dsp";
import { bits, taken } from "../coarseness";
import { mix, number } from "../number";
import { ON } from "../on";
import { both, type UnitSpec } from "../unit";

/** Few values at few moments, in each voice. */
export const coarse = {
  kind: "coarse",
  role: "stage",
  label: "Coarse",
  help: "The sound at few moments and in few steps, as the first samplers had it; it follows the keys if wished.",
  places: ["stage"],
  params: [
    ON,
    mix(1, "How much of it is heard in place of the sound."),
    taken("How many moments there are in a second; as set at middle C where it follows the keys."),
    number({
      id: "follow",
      label: "Follows keys",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      help: "How far the rate moves with the note: at 100 % every note is as coarse as the others.",
    }),
    bits("How fine the steps are: each bit doubles them."),
  ],
  cell: {
    kernel: "coarse",
    pitched: true,
    tune: (read, out, pitch, rate) => {
      const octaves = pitch + Math.log2(rate) - MIDDLE_C;
      both(out, 0, Math.min(1, (read("rate") * 2 ** (octaves * read("follow"))) / rate));
      both(out, 1, 2 ** (read("bits") - 1));
      both(out, 2, read("mix"));
    },
  },
} as const satisfies UnitSpec;
