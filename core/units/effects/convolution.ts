import { Convolver, MOST_STRETCH } from "../../dsp";
import { number } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** The convolution effect: a recorded room round the whole instrument. Its impulse is the unit's sample. */
export const convolution = {
  kind: "convolution",
  role: "effect",
  label: "Recorded room",
  help: "A recorded room: its impulse is a sound of the pool.",
  places: BUSES,
  first: ["mix", "delay", "start", "length", "fade"],
  params: [
    ON,
    number({
      id: "mix",
      label: "Amount",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.25,
      mod: "linear",
      help: "How much of the room is heard.",
    }),
    number({
      id: "delay",
      label: "Pre-delay",
      unit: "seconds",
      min: 0,
      max: 0.5,
      default: 0,
      taper: "square",
      help: "Time until the room answers.",
    }),
    number({
      id: "start",
      label: "Begins at",
      unit: "seconds",
      min: 0,
      max: 10,
      default: 0,
      taper: "square",
      help: "What comes before this place of the impulse is left out, such as silence or the sound itself.",
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
      help: "How much of the impulse is heard.",
    }),
    number({
      id: "fade",
      label: "Fades over",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      help: "Over which part of its length it fades out.",
    }),
    number({
      id: "rise",
      label: "Comes in over",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      help: "Over which part of its length it comes in.",
    }),
    {
      type: "choice",
      id: "way",
      label: "Goes",
      choices: [
        { id: "forward", label: "Forward" },
        { id: "backward", label: "Backward" },
      ],
      default: "forward",
      help: "Backward the room swells up to the end of its length, and stops.",
    },
    number({
      id: "stretch",
      label: "Stretch",
      unit: "ratio",
      min: 0.25,
      max: MOST_STRETCH,
      default: 1,
      taper: "log",
      help: "How many times as long: a larger, darker room, or a smaller, brighter one. At the most 12 seconds of it are heard.",
    }),
  ],
  block: (rate, kernels) => {
    const unit = new Convolver(rate, kernels);
    return {
      unit,
      tune: (read) => {
        unit.tune(read("mix"), read("delay"));
        unit.trim(read("start"), read("length"), read("fade"), read("rise"), read("way") === 1, read("stretch"));
      },
      load: (audio, now) => {
        unit.load(audio);
        if (now) unit.settle();
      },
    };
  },
} as const satisfies UnitSpec;
