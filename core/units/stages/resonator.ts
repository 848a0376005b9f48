import { gainOf } from "../../audio";
import { levelColumn, ratioColumn, rowGain } from "../columns";
import { LOCKED } from "../locked";
import { mix, number } from "../number";
import { ON } from "../on";
import { both, type UnitSpec } from "../unit";

const MOST = 128;
/** From this share of its length on the place of a hit counts wholly. */
const LEAST_PLACE = 0.02;
/** Octaves of 60 dB. */
const SIXTY = 3 / Math.log10(2);

interface Material {
  readonly id: string;
  readonly label: string;
  /** In how many seconds the lowest fall by 60 dB, which the air and what holds the body take. */
  readonly longest: number;
  /** What is lost by friction inside it: the share of a cycle's energy, over 2π. */
  readonly loss: number;
}

/** What bodies are made of, by their usual losses. */
const MATERIALS = [
  { id: "table", label: "As in the table", longest: 1, loss: 0 },
  { id: "bronze", label: "Bronze", longest: 20, loss: 0.0002 },
  { id: "steel", label: "Steel", longest: 12, loss: 0.0005 },
  { id: "glass", label: "Glass", longest: 4, loss: 0.0012 },
  { id: "stone", label: "Stone", longest: 1.2, loss: 0.006 },
  { id: "wood", label: "Wood", longest: 1, loss: 0.013 },
  { id: "skin", label: "Skin", longest: 0.8, loss: 0.025 },
  { id: "rubber", label: "Rubber", longest: 0.25, loss: 0.12 },
] as const satisfies readonly Material[];

const COLUMNS = [
  ratioColumn(MOST),
  levelColumn("Level of the mode."),
  number({
    id: "decay",
    label: "Decay",
    unit: "seconds",
    min: 0.005,
    max: 60,
    default: 1,
    taper: "log",
    mod: "octaves",
    help: "Decay by 60 dB.",
  }),
  LOCKED,
] as const;

/** What rings at ratios of its own, driven by whatever comes in: modal synthesis. */
export const resonator = {
  kind: "resonator",
  role: "stage",
  label: "Resonator",
  help: "Modal resonator: up to 128 modes, each with its own decay.",
  places: ["stage"],
  first: ["mix", "level", "transpose", "material", "decay", "damping", "strikePosition"],
  params: [
    ON,
    mix(1, "Balance of exciter and body."),
    number({
      id: "transpose",
      label: "Transpose",
      unit: "semitones",
      min: -36,
      max: 36,
      default: 0,
      mod: "linear",
      help: "Pitch relative to the note.",
    }),
    number({
      id: "decay",
      label: "Decay",
      unit: "ratio",
      min: 0.05,
      max: 20,
      default: 1,
      taper: "log",
      mod: "octaves",
      help: "Factor on all decays.",
    }),
    {
      type: "choice",
      id: "material",
      label: "Body material",
      choices: MATERIALS.map(({ id, label }) => ({ id, label })),
      default: "table",
      help: "Decays typical of a material, in place of the table's.",
    },
    number({
      id: "damping",
      label: "Damping",
      unit: "octaves",
      min: 0,
      max: 4,
      default: 0,
      mod: "linear",
      help: "Shortens the decay with each octave: little for metal, much for wood.",
    }),
    number({
      id: "stretch",
      label: "Stretch",
      unit: "percent",
      min: -0.5,
      max: 0.5,
      default: 0,
      mod: "linear",
      help: "Spreads the modes apart.",
    }),
    number({
      id: "level",
      label: "Level",
      unit: "decibels",
      min: -24,
      max: 48,
      default: 6,
      mod: "linear",
      help: "Gain of the body: strikes need much, held tones little.",
    }),
    number({
      id: "strikePosition",
      label: "Strike position",
      unit: "percent",
      min: 0,
      max: 0.5,
      default: 0,
      mod: "linear",
      lowest: "all over",
      help: "Strike position along the body; modes with a node there are silent.",
    }),
    number({
      id: "compensation",
      label: "Level compensation",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Compensates for the level that more modes add.",
    }),
  ],
  table: {
    label: "Modes",
    row: "mode",
    most: MOST,
    columns: COLUMNS,
    // A bar of steel that is free at both ends.
    default: [
      { ratio: 1, level: 0, decay: 3 },
      { ratio: 2.756, level: -4, decay: 2 },
      { ratio: 5.404, level: -8, decay: 1.2 },
      { ratio: 8.933, level: -12, decay: 0.8 },
      { ratio: 13.345, level: -16, decay: 0.5 },
      { ratio: 18.64, level: -20, decay: 0.3 },
    ],
  },
  cell: {
    kernel: "modes",
    pitched: true,
    ring: 0.02,
    most: () => MOST,
    size: (_read, rows) => rows,
    tune: (read, out, pitch, rate) => {
      both(out, 0, 2 ** (pitch + read("transpose") / 12));
      both(out, 1, Math.log2(read("decay")));
      both(out, 2, read("damping"));
      both(out, 3, read("stretch"));
      both(out, 4, gainOf(read("level")));
      both(out, 5, read("mix"));
      const place = read("strikePosition");
      both(out, 6, place);
      // Near the end it matters less and less, so that "everywhere" is no step away.
      both(out, 7, Math.min(1, place / LEAST_PLACE));
      both(out, 8, read("compensation"));
      const at = read("material");
      const { longest, loss } = MATERIALS[at] ?? MATERIALS[0];
      both(out, 9, at);
      both(out, 10, SIXTY / (longest * rate));
      // A loss of η takes 60 dB in 6 ln 10 / (2π f η) seconds; in cycles per frame the rate falls out.
      both(out, 11, (SIXTY * 2 * Math.PI * loss) / (6 * Math.LN10));
    },
    rows: {
      numbers: 3,
      loud: 1,
      own: 12,
      put: ({ ratio = 1, level, decay = 1 }, rate, out, at) => {
        out[at] = Math.log2(ratio);
        out[at + 1] = rowGain(level);
        out[at + 2] = Math.log2(SIXTY / (decay * rate));
      },
    },
  },
} as const satisfies UnitSpec;
