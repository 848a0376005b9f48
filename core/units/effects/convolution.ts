import { Convolver, MOST_STRETCH } from "../../dsp";
import { number } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** The convolution effect: a recorded room round the whole instrument. Its impulse is the unit's sample. */
export const convolution = {
  kind: "convolution",
  role: "effect",
  label: "Convolution reverb",
  help: "Reverb of a recorded room: an impulse response from the pool.",
  places: BUSES,
  first: ["mix", "preDelay", "start", "length", "fadeOut"],
  params: [
    ON,
    number({
      id: "mix",
      label: "Mix",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.25,
      mod: "linear",
      help: "Balance of dry sound and reverb.",
    }),
    number({
      id: "preDelay",
      label: "Pre-delay",
      unit: "seconds",
      min: 0,
      max: 0.5,
      default: 0,
      taper: "square",
      help: "Delay before the reverb.",
    }),
    number({
      id: "start",
      label: "Start",
      unit: "seconds",
      min: 0,
      max: 10,
      default: 0,
      taper: "square",
      help: "Start of the impulse: skips silence or the direct sound.",
    }),
    number({
      id: "length",
      label: "Length",
      unit: "seconds",
      min: 0,
      max: 12,
      default: 0,
      taper: "square",
      lowest: "all",
      help: "Length of the impulse that is used.",
    }),
    number({
      id: "fadeOut",
      label: "Fade-out",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      help: "Part of the length over which it fades out.",
    }),
    number({
      id: "fadeIn",
      label: "Fade-in",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      help: "Part of the length over which it fades in.",
    }),
    {
      type: "choice",
      id: "direction",
      label: "Direction",
      choices: [
        { id: "forward", label: "Forward" },
        { id: "backward", label: "Backward" },
      ],
      default: "forward",
      help: "Direction of the impulse; backward, the reverb swells and stops.",
    },
    number({
      id: "stretch",
      label: "Stretch",
      unit: "ratio",
      min: 0.25,
      max: MOST_STRETCH,
      default: 1,
      taper: "log",
      help: "Stretch of the impulse: larger and darker, or smaller and brighter. At most 12 s are used.",
    }),
  ],
  block: (rate, kernels) => {
    const unit = new Convolver(rate, kernels);
    return {
      unit,
      tune: (read) => {
        unit.tune(read("mix"), read("preDelay"));
        unit.trim(
          read("start"),
          read("length"),
          read("fadeOut"),
          read("fadeIn"),
          read("direction") === 1,
          read("stretch"),
        );
      },
      load: (audio, now) => {
        unit.load(audio);
        if (now) unit.settle();
      },
    };
  },
} as const satisfies UnitSpec;
