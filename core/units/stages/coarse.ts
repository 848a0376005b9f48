import { MIDDLE_C } from "../../dsp";
import { bits, taken } from "../coarseness";
import { mix, number } from "../number";
import { ON } from "../on";
import { both, type UnitSpec } from "../unit";

/** Few values at few moments, in each voice. */
export const coarse = {
  kind: "coarse",
  role: "stage",
  label: "Bit crusher",
  help: "Bit and sample-rate reduction in each voice, as in early digital gear.",
  places: ["stage"],
  params: [
    ON,
    mix(1, "Balance of dry and crushed sound."),
    taken("Sample rate; with key tracking, at middle C."),
    number({
      id: "keyTracking",
      label: "Key tracking",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      help: "How far the rate follows the note.",
    }),
    bits("Bit depth."),
  ],
  cell: {
    kernel: "coarse",
    pitched: true,
    tune: (read, out, pitch, rate) => {
      const octaves = pitch + Math.log2(rate) - MIDDLE_C;
      both(out, 0, Math.min(1, (read("rate") * 2 ** (octaves * read("keyTracking"))) / rate));
      both(out, 1, 2 ** (read("bits") - 1));
      both(out, 2, read("mix"));
    },
  },
} as const satisfies UnitSpec;
