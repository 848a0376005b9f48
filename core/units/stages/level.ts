import { gainOf } from "../../audio";
import { number } from "../number";
import { ON } from "../on";
import { both, type UnitSpec } from "../unit";

const OFF = -60;

/** Louder or softer, between two stages. */
export const level = {
  kind: "level",
  role: "stage",
  label: "Gain",
  help: "Gain and polarity at this point of the chain.",
  places: ["stage"],
  params: [
    ON,
    number({
      id: "level",
      label: "Level",
      unit: "decibels",
      min: OFF,
      max: 36,
      default: 0,
      mod: "linear",
      lowest: "off",
      help: "Gain.",
    }),
    {
      type: "choice",
      id: "polarity",
      label: "Polarity",
      choices: [
        { id: "normal", label: "Normal" },
        { id: "inverted", label: "Inverted" },
      ],
      default: "normal",
      help: "Polarity; inverted, it cancels what it is mixed with.",
    },
  ],
  cell: {
    kernel: "gains",
    tune: (read, out) =>
      both(out, 0, (read("level") <= OFF ? 0 : gainOf(read("level"))) * (read("polarity") === 1 ? -1 : 1)),
  },
} as const satisfies UnitSpec;
