import { hertzOf } from "../../audio";
import { number } from "../number";
import { PITCH } from "../pitch";
import { both, type UnitSpec } from "../unit";

/** Grains there may be at once. */
const MOST = 32;

/** Short pieces of a sample, many at once: clouds, frozen moments, smeared time. */
export const grains = {
  kind: "grains",
  role: "source",
  label: "Grains",
  help: "A cloud of short pieces of a sample, from one place in it or from all over: frozen, smeared, shimmering.",
  places: ["source"],
  sample: "The sample that is taken to pieces",
  params: [
    number({
      id: "position",
      label: "Position",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.1,
      mod: "linear",
      help: "Where in the sample they are taken; an envelope or an LFO wanders through it.",
    }),
    number({
      id: "around",
      label: "Around it",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.05,
      mod: "linear",
      help: "From how large a part of the sample around that place.",
    }),
    number({
      id: "size",
      label: "Size",
      unit: "seconds",
      min: 0.004,
      max: 1,
      default: 0.09,
      taper: "log",
      mod: "octaves",
      help: "How long each grain is.",
    }),
    number({
      id: "density",
      label: "Density",
      unit: "hertz",
      min: 0.5,
      max: 400,
      default: 40,
      taper: "log",
      mod: "octaves",
      help: "How many grains begin in a second; at the most 32 sound at once in each note.",
    }),
    number({
      id: "irregular",
      label: "Irregular",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.5,
      mod: "linear",
      help: "0 %: as even as a clock, which is heard as a tone of its own when they are many.",
    }),
    ...PITCH,
    number({
      id: "detune",
      label: "Detune",
      unit: "semitones",
      min: 0,
      max: 24,
      default: 0.1,
      mod: "linear",
      help: "How far around its pitch each grain is.",
    }),
    number({
      id: "width",
      label: "Width",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.6,
      mod: "linear",
      help: "How far to the sides they stand.",
    }),
    number({
      id: "root",
      label: "Root",
      unit: "note",
      min: 0,
      max: 127,
      default: 60,
      help: "The key at which the sample sounds at its own pitch.",
    }),
    number({
      id: "track",
      label: "Follow keys",
      unit: "percent",
      min: 0,
      max: 1,
      default: 1,
      help: "0 %: every key has the same pitch.",
    }),
  ],
  cell: {
    kernel: "grains",
    pitched: true,
    sampled: true,
    tune: (read, out, pitch, rate, sampleRate) => {
      const root = Math.log2(hertzOf(read("root")) / rate);
      const size = read("size") * rate;
      const every = rate / read("density");
      const overlap = Math.min(MOST, size / every);
      // So many at once, as loud as one.
      both(out, 0, 0.8 / Math.sqrt(Math.max(1, 0.4 * overlap)));
      both(out, 1, Math.log2(sampleRate / rate) + (pitch - root) * read("track"));
      both(out, 2, read("position"));
      both(out, 3, read("around"));
      both(out, 4, size);
      both(out, 5, every);
      both(out, 6, read("irregular"));
      both(out, 7, read("detune") / 12);
      both(out, 8, read("width"));
    },
  },
} as const satisfies UnitSpec;
