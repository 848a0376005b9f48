import { Rotary } from "../../dsp";
import { mix, number, spread } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** Metres from the axis to the microphones, at the farthest and at the nearest. */
const FAR = 2;
const NEAR = 0.38;

const turns = <I extends string>(id: I, label: string, value: number, help: string) =>
  number({
    id,
    label,
    unit: "hertz",
    min: 0.05,
    max: 12,
    default: value,
    taper: "log",
    mod: "octaves",
    help,
  });

/** A cabinet in which a horn and a drum turn. */
export const rotary = {
  kind: "rotary",
  role: "effect",
  label: "Rotary",
  help: "A horn and a drum that turn before two microphones: level, place and pitch come and go together.",
  places: BUSES,
  first: ["mix", "speed", "slow", "fast", "spread"],
  params: [
    ON,
    mix(1, "From the sound as it was to that of the cabinet."),
    {
      type: "choice",
      id: "speed",
      label: "Turns",
      choices: [
        { id: "slow", label: "Slowly" },
        { id: "fast", label: "Fast" },
        { id: "still", label: "Not at all" },
      ],
      default: "slow",
      help: "Which of its speeds it has; it takes its time to come to another.",
    },
    turns("slow", "Slow", 0.8, "Turns a second when it is slow."),
    turns("fast", "Fast", 6.6, "Turns a second when it is fast."),
    number({
      id: "inertia",
      label: "Runs up in",
      unit: "seconds",
      min: 0,
      max: 4,
      default: 0.6,
      taper: "square",
      help: "How slowly the horn comes to another speed; the drum takes four times as long.",
    }),
    number({
      id: "split",
      label: "Split at",
      unit: "hertz",
      min: 100,
      max: 4000,
      default: 800,
      taper: "log",
      mod: "octaves",
      help: "What is above goes into the horn, what is below into the drum.",
    }),
    number({
      id: "near",
      label: "Microphones near",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.5,
      mod: "linear",
      help: "The nearer they are, the more the sound comes and goes.",
    }),
    spread(140),
  ],
  block: (rate) => {
    const unit = new Rotary(rate);
    return {
      unit,
      tune: (read) => {
        const speed = read("speed") === 0 ? read("slow") : read("speed") === 1 ? read("fast") : 0;
        const distance = FAR * (NEAR / FAR) ** read("near");
        unit.tune(read("mix"), speed, read("inertia"), read("split"), distance, read("spread") / 360);
      },
    };
  },
} as const satisfies UnitSpec;
