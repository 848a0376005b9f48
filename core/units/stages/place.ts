import { number } from "../number";
import { ON } from "../on";
import type { UnitSpec } from "../unit";

/** Semitones from the middle at which a note stands all the way to a side. */
const REACH = 36;

/** Each note at a place of its own by its key. */
export const place = {
  kind: "place",
  role: "stage",
  label: "Pan by key",
  help: "Pans low notes left and high notes right, or the reverse.",
  places: ["stage"],
  params: [
    ON,
    number({
      id: "width",
      label: "Width",
      unit: "percent",
      min: -1,
      max: 1,
      default: 0.5,
      mod: "linear",
      help: "Stereo width over the keys; below 0 reversed.",
    }),
    number({
      id: "centreKey",
      label: "Centre key",
      unit: "note",
      min: 0,
      max: 127,
      default: 60,
      help: "Key that stays in the centre.",
    }),
  ],
  cell: {
    kernel: "gains",
    pitched: true,
    tune: (read, out, pitch, rate) => {
      const note = 69 + 12 * (pitch + Math.log2(rate / 440));
      const pan = Math.max(-1, Math.min(1, (read("width") * (note - read("centreKey"))) / REACH));
      const angle = ((1 + pan) * Math.PI) / 4;
      out[0] = Math.SQRT2 * Math.cos(angle);
      out[1] = Math.SQRT2 * Math.sin(angle);
    },
  },
} as const satisfies UnitSpec;
