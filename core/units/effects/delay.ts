import { Delay } from "../../dsp";
import { beatTime, sync } from "../beat";
import { mix, number } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** Echoes: a time or a note value, with cuts and saturation in the loop. */
export const delay = {
  kind: "delay",
  role: "effect",
  label: "Delay",
  help: "Echoes, in stereo or ping-pong, free or in tempo.",
  places: BUSES,
  first: ["mix", "time", "sync", "feedback", "lowCut", "highCut", "mode"],
  params: [
    ON,
    mix(0.3, "Level of the echoes beside the dry sound."),
    number({
      id: "time",
      label: "Time",
      unit: "seconds",
      min: 0.001,
      max: 4,
      default: 0.35,
      taper: "log",
      mod: "octaves",
      help: "Delay time, with sync off.",
    }),
    sync("Delay time as a note value of the tempo."),
    number({
      id: "feedback",
      label: "Feedback",
      unit: "percent",
      min: 0,
      max: 0.98,
      default: 0.4,
      mod: "linear",
      help: "Share of each echo that is fed back.",
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
      help: "Low cut in the feedback path.",
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
      help: "High cut in the feedback path.",
    }),
    number({
      id: "drive",
      label: "Drive",
      unit: "decibels",
      min: 0,
      max: 24,
      default: 0,
      mod: "linear",
      help: "Saturation of loud echoes.",
    }),
    number({
      id: "ducking",
      label: "Ducking",
      unit: "decibels",
      min: 0,
      max: 48,
      default: 0,
      mod: "linear",
      help: "Gain reduction of the echoes while the dry sound is loud.",
    }),
    number({
      id: "duckRelease",
      label: "Duck release",
      unit: "seconds",
      min: 0.02,
      max: 3,
      default: 0.4,
      taper: "log",
      help: "Time until the echoes are back after a loud sound.",
    }),
    {
      type: "choice",
      id: "mode",
      label: "Mode",
      choices: [
        { id: "stereo", label: "Stereo" },
        { id: "pingPong", label: "Ping-pong" },
      ],
      default: "stereo",
      help: "Stereo: each channel repeats itself. Ping-pong: echoes alternate between the sides.",
    },
  ],
  block: (rate) => {
    const unit = new Delay(rate);
    return {
      unit,
      tune: (read, tempo) =>
        unit.tune(
          read("mix"),
          beatTime(read("time"), read("sync"), tempo),
          read("feedback"),
          read("lowCut"),
          read("highCut"),
          read("drive"),
          read("mode") === 1,
          read("ducking"),
          read("duckRelease"),
        ),
    };
  },
} as const satisfies UnitSpec;
