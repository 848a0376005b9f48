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
  help: "Wavetable synthesis: a sample read as single cycles.",
  places: ["source"],
  sample: "Sample the cycles are read from",
  params: [
    number({
      id: "position",
      label: "Position",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Position in the wavetable.",
    }),
    {
      type: "choice",
      id: "interpolation",
      label: "Interpolation",
      choices: [
        { id: "smooth", label: "Smooth" },
        { id: "stepped", label: "Stepped" },
      ],
      default: "smooth",
      help: "Smooth: blends two cycles. Stepped: takes the nearer one.",
    },
    number({
      id: "cycleLength",
      label: "Cycle length",
      unit: "count",
      min: 0,
      max: 8192,
      default: 0,
      lowest: "found",
      help: "Frames of one cycle; auto: the usual length that fits, 2048 first.",
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
      help: "Phase at which each note starts.",
    }),
  ],
  cell: {
    kernel: "wavetable",
    pitched: true,
    sampled: true,
    cycle: (read) => read("cycleLength"),
    variant: (read) => read("interpolation"),
    tune: (read, out, pitch) => {
      both(out, 0, 2 ** Math.min(-1, pitch));
      both(out, 1, read("position"));
      both(out, 2, LEVEL);
      both(out, 3, (read("phase") / 360) % 1);
    },
  },
} as const satisfies UnitSpec;
