import { Rotary } from "../../dsp";
import { mix, number, spread } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

/** Metres from the axis to the microphones, at the farthest and at the nearest. */
const FAR = 2;
const NEAR = 0.38;

const turns = <const I extends string>(id: I, label: string, value: number, help: string) =>
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
  help: "Rotary speaker: a turning horn and drum before two microphones.",
  places: BUSES,
  first: ["mix", "speed", "slowRate", "fastRate", "spread"],
  params: [
    ON,
    mix(1, "Balance of dry sound and cabinet."),
    {
      type: "choice",
      id: "speed",
      label: "Speed",
      choices: [
        { id: "slow", label: "Slow" },
        { id: "fast", label: "Fast" },
        { id: "stopped", label: "Stopped" },
      ],
      default: "slow",
      help: "Speed setting; changes take the ramp time.",
    },
    turns("slowRate", "Slow rate", 0.8, "Turns a second at the slow speed."),
    turns("fastRate", "Fast rate", 6.6, "Turns a second at the fast speed."),
    number({
      id: "rampTime",
      label: "Ramp time",
      unit: "seconds",
      min: 0,
      max: 4,
      default: 0.6,
      taper: "square",
      help: "Time the horn takes to reach another speed; the drum takes four times as long.",
    }),
    number({
      id: "crossover",
      label: "Crossover",
      unit: "hertz",
      min: 100,
      max: 4000,
      default: 800,
      taper: "log",
      mod: "octaves",
      help: "Crossover frequency between drum and horn.",
    }),
    number({
      id: "micDistance",
      label: "Mic distance",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.5,
      mod: "linear",
      help: "Distance of the microphones: the nearer, the more the sound comes and goes.",
    }),
    spread(140),
  ],
  block: (rate) => {
    const unit = new Rotary(rate);
    return {
      unit,
      tune: (read) => {
        const speed = read("speed") === 0 ? read("slowRate") : read("speed") === 1 ? read("fastRate") : 0;
        const distance = NEAR * (FAR / NEAR) ** read("micDistance");
        unit.tune(read("mix"), speed, read("rampTime"), read("crossover"), distance, read("spread") / 360);
      },
    };
  },
} as const satisfies UnitSpec;
