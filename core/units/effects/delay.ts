import { Delay } from "../../dsp";
import { beat, beatTime } from "../beat";
import { mix, number } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** Echoes: a time or a note value, with cuts and saturation in the loop. */
export const delay = {
  kind: "delay",
  role: "effect",
  label: "Delay",
  help: "Echoes, straight or from side to side.",
  places: BUSES,
  first: ["mix", "time", "beat", "feedback", "lowCut", "highCut", "way"],
  params: [
    ON,
    mix(0.3, "How loud the echoes are, beside the sound as it was."),
    number({
      id: "time",
      label: "Time",
      unit: "seconds",
      min: 0.001,
      max: 4,
      default: 0.35,
      taper: "log",
      mod: "octaves",
      help: "Time from one echo to the next, where it doesn't follow the tempo.",
    }),
    beat("A note value from one echo to the next, in the tempo."),
    number({
      id: "feedback",
      label: "Feedback",
      unit: "percent",
      min: 0,
      max: 0.98,
      default: 0.4,
      mod: "linear",
      help: "How much of each echo is left in the next.",
    }),
    number({
      id: "lowCut",
      label: "Low cut",
      unit: "hertz",
      min: 10,
      max: 2000,
      default: 80,
      taper: "log",
      mod: "octaves",
      help: "Each echo loses what is below.",
    }),
    number({
      id: "highCut",
      label: "High cut",
      unit: "hertz",
      min: 500,
      max: 20000,
      default: 8000,
      taper: "log",
      mod: "octaves",
      help: "Each echo loses what is above.",
    }),
    number({
      id: "drive",
      label: "Drive",
      unit: "decibels",
      min: 0,
      max: 24,
      default: 0,
      mod: "linear",
      help: "How hard loud echoes are pressed; soft ones stay as they are.",
    }),
    number({
      id: "duck",
      label: "Ducks by",
      unit: "decibels",
      min: 0,
      max: 48,
      default: 0,
      mod: "linear",
      help: "How much softer the echoes are while the sound is loud: they step forward when it rests.",
    }),
    number({
      id: "back",
      label: "Comes back in",
      unit: "seconds",
      min: 0.02,
      max: 3,
      default: 0.4,
      taper: "log",
      help: "How soon after a loud sound the echoes are back.",
    }),
    {
      type: "choice",
      id: "way",
      label: "Goes",
      choices: [
        { id: "straight", label: "Straight on" },
        { id: "crossing", label: "From side to side" },
      ],
      default: "straight",
      help: "Whether each channel repeats itself, or the echoes go to and fro between them.",
    },
  ],
  block: (rate) => {
    const unit = new Delay(rate);
    return {
      unit,
      tune: (read, tempo) =>
        unit.tune(
          read("mix"),
          beatTime(read("time"), read("beat"), tempo),
          read("feedback"),
          read("lowCut"),
          read("highCut"),
          read("drive"),
          read("way") === 1,
          read("duck"),
          read("back"),
        ),
    };
  },
} as const satisfies UnitSpec;
