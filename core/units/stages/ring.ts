import { blockOf } from "../cell-block";
import { mix, number } from "../number";
import { ON } from "../on";
import { BUSES, both, type UnitSpec, type VoiceCell } from "../unit";

const CELL: VoiceCell = {
  kernel: "ring",
  pitched: true,
  tune: (read, out, pitch, rate) => {
    const cycles = read("by") === 0 ? 2 ** pitch * read("ratio") : read("frequency") / rate;
    both(out, 0, Math.min(0.5, cycles));
    both(out, 1, read("mix"));
  },
};

/** Multiplies the sound by a sine, at a ratio to the key or a frequency of its own. */
export const ring = {
  kind: "ring",
  role: "stage",
  label: "Ring",
  help: "Each partial becomes two, as far above it as below: bells, clangs, voices of robots.",
  places: ["stage", ...BUSES],
  params: [
    ON,
    mix(1, "How much of it is heard in place of the sound."),
    {
      type: "choice",
      id: "by",
      label: "Goes by",
      choices: [
        { id: "key", label: "The key" },
        { id: "hertz", label: "A frequency" },
      ],
      default: "key",
      help: "Whether the sine follows the keys, or stays where it is.",
    },
    number({
      id: "ratio",
      label: "Ratio",
      unit: "ratio",
      min: 0.05,
      max: 16,
      default: 1.5,
      taper: "log",
      mod: "octaves",
      help: "Its frequency, as a multiple of the key's.",
    }),
    number({
      id: "frequency",
      label: "Frequency",
      unit: "hertz",
      min: 0.5,
      max: 8000,
      default: 220,
      taper: "log",
      mod: "octaves",
      help: "Its frequency, where it doesn't follow the keys.",
    }),
  ],
  cell: CELL,
  block: blockOf(CELL),
} as const satisfies UnitSpec;
