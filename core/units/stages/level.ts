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
  help: "Louder or softer at this place of the chain: so much for what stands behind it to bend.",
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
      help: "How much louder or softer.",
    }),
    {
      type: "choice",
      id: "way",
      label: "Polarity",
      choices: [
        { id: "kept", label: "As it is" },
        { id: "turned", label: "Turned over" },
      ],
      default: "kept",
      help: "Turned over, what it is mixed with takes away instead of adding.",
    },
  ],
  cell: {
    kernel: "gains",
    tune: (read, out) =>
      both(out, 0, (read("level") <= OFF ? 0 : gainOf(read("level"))) * (read("way") === 1 ? -1 : 1)),
  },
} as const satisfies UnitSpec;
