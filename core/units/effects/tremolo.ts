import { type LfoShape, Tremolo } from "../../dsp";
import { swingRate, sync } from "../beat";
import { number, rate, spread } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

const SHAPES = [
  { id: "sine", label: "Sine" },
  { id: "triangle", label: "Triangle" },
  { id: "saw", label: "Saw" },
  { id: "square", label: "Square" },
] as const satisfies readonly { readonly id: LfoShape; readonly label: string }[];

/** A level that swings. */
export const tremolo = {
  kind: "tremolo",
  role: "effect",
  label: "Tremolo",
  help: "Level modulation; with a spread of 180° it is auto-pan.",
  places: BUSES,
  params: [
    ON,
    number({
      id: "depth",
      label: "Depth",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.5,
      mod: "linear",
      help: "Modulation depth of the level.",
    }),
    rate(5),
    sync("Length of one cycle as a note value of the tempo."),
    {
      type: "choice",
      id: "shape",
      label: "Shape",
      choices: SHAPES,
      default: "sine",
      help: "Waveform of the modulation.",
    },
    spread(0),
  ],
  block: (frames) => {
    const unit = new Tremolo(frames);
    return {
      unit,
      tune: (read, tempo) =>
        unit.tune(
          read("depth"),
          swingRate(read("rate"), read("sync"), tempo),
          SHAPES[read("shape")]?.id ?? "sine",
          read("spread") / 360,
        ),
    };
  },
} as const satisfies UnitSpec;
