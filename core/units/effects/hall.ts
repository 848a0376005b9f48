import { Hall } from "../../dsp";
import { mix, number, time } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

const hertz = <const I extends string>(id: I, label: string, min: number, max: number, value: number, help: string) =>
  number({ id, label, unit: "hertz", min, max, default: value, taper: "log", mod: "octaves", help });
const share = <const I extends string>(id: I, label: string, value: number, help: string, max = 1) =>
  number({ id, label, unit: "percent", min: 0, max, default: value, mod: "linear", help });

/** A large computed room in detail. */
export const hall = {
  kind: "hall",
  role: "effect",
  label: "Hall",
  help: "Algorithmic hall: early reflections, decay in three bands, modulation, freeze.",
  places: BUSES,
  params: [
    ON,
    mix(0.2, "Balance of dry sound and reverb."),
    time("preDelay", "Pre-delay", 0.012, 0.5, "Delay before the reverb."),
    number({
      id: "size",
      label: "Size",
      unit: "percent",
      min: 0.1,
      max: 1,
      default: 0.7,
      mod: "linear",
      help: "Room size.",
    }),
    number({
      id: "decay",
      label: "Decay",
      unit: "seconds",
      min: 0.1,
      max: 30,
      default: 2.4,
      taper: "log",
      mod: "octaves",
      help: "Reverb time of the mids (RT60).",
    }),
    number({
      id: "lowDecay",
      label: "Low decay",
      unit: "ratio",
      min: 0.2,
      max: 4,
      default: 1.2,
      taper: "log",
      mod: "octaves",
      help: "Reverb time of the lows, as a multiple.",
    }),
    number({
      id: "highDecay",
      label: "High decay",
      unit: "ratio",
      min: 0.05,
      max: 2,
      default: 0.4,
      taper: "log",
      mod: "octaves",
      help: "Reverb time of the highs, as a multiple.",
    }),
    hertz("lowCrossover", "Low crossover", 50, 1000, 250, "Frequency below which the low decay applies."),
    hertz("highCrossover", "High crossover", 1000, 16000, 4000, "Frequency above which the high decay applies."),
    share("diffusion", "Diffusion", 0.8, "Density of the reflections; low keeps drum hits apart."),
    share("earlyReflections", "Early reflections", 0.4, "Level of the early reflections."),
    share("modulation", "Modulation", 0.3, "Pitch modulation of the tail, against metallic ringing."),
    hertz("lowCut", "Low cut", 10, 1000, 60, "Low cut of the reverb."),
    hertz("highCut", "High cut", 1000, 22000, 14000, "High cut of the reverb."),
    share("width", "Width", 1, "Stereo width of the reverb; 0 % is mono.", 2),
    number({
      id: "freeze",
      label: "Freeze",
      unit: "switch",
      min: 0,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Holds the tail for ever and lets nothing more in.",
    }),
  ],
  block: (rate) => {
    const unit = new Hall(rate);
    return {
      unit,
      tune: (read) =>
        unit.tune({
          mix: read("mix"),
          preDelay: read("preDelay"),
          size: read("size"),
          decay: read("decay"),
          low: read("lowDecay"),
          high: read("highDecay"),
          lowBelow: read("lowCrossover"),
          highAbove: read("highCrossover"),
          diffusion: read("diffusion"),
          early: read("earlyReflections"),
          motion: read("modulation"),
          lowCut: read("lowCut"),
          highCut: read("highCut"),
          width: read("width"),
          freeze: read("freeze") >= 0.5,
        }),
    };
  },
} as const satisfies UnitSpec;
