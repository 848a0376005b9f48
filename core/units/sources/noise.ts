import { number } from "../number";
import { both, type UnitSpec } from "../unit";

/** Root mean square of each colour: −15 dB. */
const LEVEL = 0.178;

/** Noise of four colours, and dust. */
export const noise = {
  kind: "noise",
  role: "source",
  label: "Noise",
  help: "Hiss, wind or rumble, each note another; it does not follow the keys.",
  places: ["source"],
  params: [
    {
      type: "choice",
      id: "colour",
      label: "Colour",
      choices: [
        { id: "white", label: "White" },
        { id: "pink", label: "Pink" },
        { id: "brown", label: "Brown" },
        { id: "blue", label: "Blue" },
        { id: "dust", label: "Dust" },
      ],
      default: "pink",
      help: "White: as strong everywhere. Pink: 3 dB, brown: 6 dB less with each octave; blue: 3 dB more. Dust: single clicks at random.",
    },
    number({
      id: "density",
      label: "Density",
      unit: "hertz",
      min: 0.1,
      max: 5000,
      default: 20,
      taper: "log",
      mod: "octaves",
      help: "Of dust: how many clicks there are in a second.",
    }),
    number({
      id: "width",
      label: "Width",
      unit: "percent",
      min: 0,
      max: 1,
      default: 1,
      mod: "linear",
      help: "How much left and right have noise of their own; 0 %: the same in both.",
    }),
  ],
  cell: {
    kernel: "noise",
    variant: (read) => read("colour"),
    tune: (read, out, _pitch, rate) => {
      const angle = (read("width") * Math.PI) / 2;
      both(out, 0, LEVEL);
      // Of the left channel its own noise alone; of the right both, so that its power stays the same.
      out[2] = 1;
      out[3] = Math.cos(angle);
      out[4] = 0;
      out[5] = Math.sin(angle);
      both(out, 3, Math.min(1, read("density") / rate));
    },
  },
} as const satisfies UnitSpec;
