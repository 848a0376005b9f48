import { Hall } from "../../dsp";
import { mix, number, time } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

const hertz = <I extends string>(id: I, label: string, min: number, max: number, value: number, help: string) =>
  number({ id, label, unit: "hertz", min, max, default: value, taper: "log", mod: "octaves", help });
const share = <I extends string>(id: I, label: string, value: number, help: string, max = 1) =>
  number({ id, label, unit: "percent", min: 0, max, default: value, mod: "linear", help });

/** A large computed room in detail. */
export const hall = {
  kind: "hall",
  role: "effect",
  label: "Hall",
  help: "A large computed room in detail: first echoes, three bands of decay, moving walls, freeze.",
  places: BUSES,
  params: [
    ON,
    mix(0.2, "How much of the room is heard."),
    time("preDelay", "Pre-delay", 0.012, 0.5, "How long the room waits before it answers."),
    number({
      id: "size",
      label: "Size",
      unit: "percent",
      min: 0.1,
      max: 1,
      default: 0.7,
      mod: "linear",
      help: "How far apart the walls are.",
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
      help: "Time in which the middle of the spectrum dies away by 60 dB.",
    }),
    number({
      id: "low",
      label: "Low decay",
      unit: "ratio",
      min: 0.2,
      max: 4,
      default: 1.2,
      taper: "log",
      mod: "octaves",
      help: "How many times as long the low end takes.",
    }),
    number({
      id: "high",
      label: "High decay",
      unit: "ratio",
      min: 0.05,
      max: 2,
      default: 0.4,
      taper: "log",
      mod: "octaves",
      help: "How many times as long the high end takes.",
    }),
    hertz("lowBelow", "Low below", 50, 1000, 250, "Where the low end begins."),
    hertz("highAbove", "High above", 1000, 16000, 4000, "Where the high end begins."),
    share("diffusion", "Diffusion", 0.8, "How soon its echoes grow dense: little for drums that stay apart."),
    share("early", "First echoes", 0.4, "How loud the first echoes are."),
    share("motion", "Motion", 0.3, "How far its walls move, so that nothing rings on one pitch."),
    hertz("lowCut", "Low cut", 10, 1000, 60, "What is below stays out of the room."),
    hertz("highCut", "High cut", 1000, 22000, 14000, "What is above stays out of the room."),
    share("width", "Width", 1, "0 % is the same on both sides.", 2),
    number({
      id: "freeze",
      label: "Freeze",
      unit: "switch",
      min: 0,
      max: 1,
      default: 0,
      mod: "linear",
      help: "What is in the room stays there, and nothing more comes in.",
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
          low: read("low"),
          high: read("high"),
          lowBelow: read("lowBelow"),
          highAbove: read("highAbove"),
          diffusion: read("diffusion"),
          early: read("early"),
          motion: read("motion"),
          lowCut: read("lowCut"),
          highCut: read("highCut"),
          width: read("width"),
          freeze: read("freeze") >= 0.5,
        }),
    };
  },
} as const satisfies UnitSpec;
