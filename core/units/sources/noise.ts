import { swingRate, sync } from "../beat";
import { number, rate, time } from "../number";
import { both, type UnitSpec } from "../unit";

/** Root mean square of each colour: −15 dB. */
const LEVEL = 0.178;

/** Noise of four colours, and dust; steady, or in bursts that may follow the beat. */
export const noise = {
  kind: "noise",
  role: "source",
  label: "Noise",
  help: "Noise, different for each note; it doesn't follow the keys.",
  places: ["source"],
  first: ["colour", "width", "bursts", "rate", "sync"],
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
      help: "Spectrum: white flat, pink −3, brown −6, blue +3 dB an octave; dust: random clicks.",
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
      help: "Clicks per second of dust.",
    }),
    number({
      id: "width",
      label: "Width",
      unit: "percent",
      min: 0,
      max: 1,
      default: 1,
      mod: "linear",
      help: "Stereo width; 0 % is mono.",
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
      help: "Depth of the bursts: silence between them at 100 %.",
    }),
    rate(4),
    sync("Time between bursts as a note value of the tempo."),
    time("burstLength", "Burst length", 0.15, 4, "Decay of a burst (by 60 dB)."),
    number({
      id: "probability",
      label: "Probability",
      unit: "percent",
      min: 0,
      max: 1,
      default: 1,
      mod: "linear",
      help: "Probability of each burst; the first of a note always sounds.",
    }),
    number({
      id: "levelJitter",
      label: "Level jitter",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Random level reduction of later bursts.",
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
      both(out, 5, swingRate(read("rate"), read("sync"), tempo) / rate);
      both(out, 6, 10 ** (-3 / Math.max(1, read("burstLength") * rate)));
      both(out, 7, read("probability"));
      both(out, 8, 1 - read("levelJitter"));
    },
  },
} as const satisfies UnitSpec;
