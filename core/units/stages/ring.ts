import { blockOf } from "../cell-block";
import { mix, number } from "../number";
import { ON } from "../on";
import { BUSES, both, type UnitSpec, type VoiceCell } from "../unit";

const CELL: VoiceCell = {
  kernel: "ring",
  pitched: true,
  tune: (read, out, pitch, rate) => {
    const cycles = read("tunedBy") === 0 ? 2 ** pitch * read("ratio") : read("frequency") / rate;
    both(out, 0, Math.min(0.5, cycles));
    both(out, 1, read("mix"));
  },
};

/** Multiplies the sound by a sine, at a ratio to the key or a frequency of its own. */
export const ring = {
  kind: "ring",
  role: "stage",
  label: "Ring modulator",
  help: "Ring modulation with a sine: bells, clangs, robots.",
  places: ["stage", ...BUSES],
  params: [
    ON,
    mix(1, "Balance of dry and modulated sound."),
    {
      type: "choice",
      id: "tunedBy",
      label: "Tuned by",
      choices: [
        { id: "key", label: "Key" },
        { id: "frequency", label: "Frequency" },
      ],
      default: "key",
      help: "Key: the sine follows the note. Frequency: it stays.",
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
      help: "Frequency of the sine as a multiple of the note's.",
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
      help: "Frequency of the sine, if it doesn't follow the keys.",
    }),
  ],
  cell: CELL,
  block: blockOf(CELL),
} as const satisfies UnitSpec;
