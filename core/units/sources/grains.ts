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
  help: "Granular synthesis: a cloud of short grains of a sample.",
  places: ["source"],
  sample: "Sample the grains are taken from",
  params: [
    number({
      id: "position",
      label: "Position",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.1,
      mod: "linear",
      help: "Position in the sample.",
    }),
    number({
      id: "positionJitter",
      label: "Position jitter",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.05,
      mod: "linear",
      help: "Random spread of the position.",
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
      help: "Grain length.",
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
      help: "Grains per second; at most 32 sound at once in each note.",
    }),
    number({
      id: "timingJitter",
      label: "Timing jitter",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.5,
      mod: "linear",
      help: "Random spread in time; at 0 % many grains are heard as a tone of their own.",
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
      help: "Random detuning of each grain.",
    }),
    number({
      id: "width",
      label: "Width",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.6,
      mod: "linear",
      help: "Random pan of each grain.",
    }),
    number({
      id: "root",
      label: "Root",
      unit: "note",
      min: 0,
      max: 127,
      default: 60,
      help: "Root key: the sample plays at its own pitch there.",
    }),
    number({
      id: "keyTracking",
      label: "Key tracking",
      unit: "percent",
      min: 0,
      max: 1,
      default: 1,
      help: "How far the pitch follows the keys; 0 %: not at all.",
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
      both(out, 1, Math.log2(sampleRate / rate) + (pitch - root) * read("keyTracking"));
      both(out, 2, read("position"));
      both(out, 3, read("positionJitter"));
      both(out, 4, size);
      both(out, 5, every);
      both(out, 6, read("timingJitter"));
      both(out, 7, read("detune") / 12);
      both(out, 8, read("width"));
    },
  },
} as const satisfies UnitSpec;
