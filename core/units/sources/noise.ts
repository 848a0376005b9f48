import { beat, swingRate } from "../beat";
import { number, rate, time } from "../number";
import { both, type UnitSpec } from "../unit";

/** Root mean square of each colour: −15 dB. */
const LEVEL = 0.178;

/** Noise of four colours, and dust; steady, or in bursts that may follow the beat. */
export const noise = {
  kind: "noise",
  role: "source",
  label: "Noise",
  help: "Hiss, wind or rumble, each note another; it does not follow the keys.",
  places: ["source"],
  first: ["colour", "width", "bursts", "rate", "beat"],
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
    number({
      id: "bursts",
      label: "Bursts",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      mod: "linear",
      lowest: "none",
      help: "How far it comes in bursts that die away, and is silent between them.",
    }),
    rate(4),
    beat("A note value from one burst to the next, in the tempo."),
    time("length", "Burst length", 0.15, 4, "In which time a burst falls by 60 dB."),
    number({
      id: "chance",
      label: "Chance",
      unit: "percent",
      min: 0,
      max: 1,
      default: 1,
      mod: "linear",
      help: "How likely each burst is to come; the first of a note always does.",
    }),
    number({
      id: "uneven",
      label: "Uneven",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      mod: "linear",
      help: "How much softer than the first the others may be, by chance.",
    }),
  ],
  cell: {
    kernel: "noise",
    variant: (read) => read("colour"),
    tune: (read, out, _pitch, rate, _sampleRate, tempo) => {
      const angle = (read("width") * Math.PI) / 2;
      both(out, 0, LEVEL);
      // Of the left channel its own noise alone; of the right both, so that its power stays the same.
      out[2] = 1;
      out[3] = Math.cos(angle);
      out[4] = 0;
      out[5] = Math.sin(angle);
      both(out, 3, Math.min(1, read("density") / rate));
      both(out, 4, read("bursts"));
      both(out, 5, swingRate(read("rate"), read("beat"), tempo) / rate);
      both(out, 6, 10 ** (-3 / Math.max(1, read("length") * rate)));
      both(out, 7, read("chance"));
      both(out, 8, 1 - read("uneven"));
    },
  },
} as const satisfies UnitSpec;
