import { number } from "../number";
import { PITCH } from "../pitch";
import { both, type UnitSpec } from "../unit";

/** A cycle at full swing has this level, as an oscillator has. */
const LEVEL = 0.35;

/** The cycles of a sample, one after the other: wavetable synthesis. */
export const wavetable = {
  kind: "wavetable",
  role: "source",
  label: "Wavetable",
  help: "A sample read as a row of single cycles: from one to the next by hand, envelope or LFO.",
  places: ["source"],
  sample: "The sample whose cycles are read",
  params: [
    number({
      id: "position",
      label: "Position",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Which cycle is heard, from the first to the last.",
    }),
    {
      type: "choice",
      id: "between",
      label: "Between",
      choices: [
        { id: "smooth", label: "Blended" },
        { id: "stepped", label: "Stepped" },
      ],
      default: "smooth",
      help: "Between two cycles: both blended, or the nearer one.",
    },
    number({
      id: "cycle",
      label: "Cycle",
      unit: "count",
      min: 0,
      max: 8192,
      default: 0,
      lowest: "found",
      help: "Frames of one cycle; found: the usual length that fits the sample, 2048 first.",
    }),
    ...PITCH,
    number({
      id: "phase",
      label: "Phase",
      unit: "degrees",
      min: 0,
      max: 360,
      default: 0,
      mod: "linear",
      help: "Where in its cycle each note begins.",
    }),
  ],
  cell: {
    kernel: "wavetable",
    pitched: true,
    sampled: true,
    cycle: (read) => read("cycle"),
    variant: (read) => read("between"),
    tune: (read, out, pitch) => {
      both(out, 0, 2 ** Math.min(-1, pitch));
      both(out, 1, read("position"));
      both(out, 2, LEVEL);
      both(out, 3, (read("phase") / 360) % 1);
    },
  },
} as const satisfies UnitSpec;
