import { type LfoShape, Tremolo } from "../../dsp";
import { beat, swingRate } from "../beat";
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
  help: "The level swings; with the channels half a cycle apart the sound goes from side to side.",
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
      help: "How far the level falls.",
    }),
    rate(5),
    beat("A note value of one cycle, in the tempo."),
    {
      type: "choice",
      id: "shape",
      label: "Shape",
      choices: SHAPES,
      default: "sine",
      help: "The form of the movement.",
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
          swingRate(read("rate"), read("beat"), tempo),
          SHAPES[read("shape")]?.id ?? "sine",
          read("spread") / 360,
        ),
    };
  },
} as const satisfies UnitSpec;
