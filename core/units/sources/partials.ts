import { levelColumn, ratioColumn, rowGain } from "../columns";
import { LOCKED } from "../locked";
import { number } from "../number";
import { PITCH } from "../pitch";
import { both, type UnitSpec } from "../unit";

const MOST = 256;
const LEVEL = 0.25;

const COLUMNS = [
  ratioColumn(MOST),
  levelColumn("Level of the partial."),
  number({
    id: "pan",
    label: "Pan",
    unit: "pan",
    min: -1,
    max: 1,
    default: 0,
    mod: "linear",
    help: "Pan of the partial.",
  }),
  number({
    id: "detune",
    label: "Detune",
    unit: "cents",
    min: -1200,
    max: 1200,
    default: 0,
    mod: "linear",
    help: "Detuning of the partial in cents.",
  }),
  number({
    id: "decay",
    label: "Decay",
    unit: "seconds",
    min: 0,
    max: 60,
    default: 0,
    taper: "square",
    mod: "linear",
    lowest: "held",
    help: "Decay by 60 dB; held: none.",
  }),
  number({
    id: "attack",
    label: "Attack",
    unit: "seconds",
    min: 0,
    max: 20,
    default: 0,
    taper: "square",
    mod: "linear",
    lowest: "at once",
    help: "Attack of the partial, beside the envelope.",
  }),
  LOCKED,
] as const;
/** Of a row that doesn't die away, the octaves by which it falls in a frame, as a logarithm: none to speak of. */
const HELD = -100;
/** Octaves in 60 dB. */
const SIXTY = 3 / Math.log10(2);

/** Variants of the kernel: partials have pans, they die away, they have attacks. */
const PLACED = 1;
const DYING = 2;
const RISING = 4;

/** 1 for an even harmonic, −1 for an odd one above the first, 0 for what is neither. */
function evenness(ratio: number): number {
  const harmonic = Math.round(ratio);
  if (harmonic < 2 || Math.abs(Math.log2(ratio / harmonic)) > 0.02) return 0;
  return harmonic % 2 === 0 ? 1 : -1;
}

/** Sines at any ratios: additive synthesis. */
export const partials = {
  kind: "partials",
  role: "source",
  label: "Partials",
  help: "Additive synthesis: up to 256 sines at ratios and levels of your own.",
  places: ["source"],
  first: ["tilt", "stretch", "oddEven", "decay"],
  params: [
    ...PITCH,
    number({
      id: "tilt",
      label: "Tilt",
      unit: "decibels",
      min: -24,
      max: 12,
      default: 0,
      mod: "linear",
      help: "Spectral tilt in decibels an octave.",
    }),
    number({
      id: "stretch",
      label: "Stretch",
      unit: "percent",
      min: -0.5,
      max: 0.5,
      default: 0,
      mod: "linear",
      help: "Inharmonicity: spreads the partials apart, as stiff strings and bells do.",
    }),
    number({
      id: "oddEven",
      label: "Odd/even",
      unit: "percent",
      min: -1,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Balance of odd and even harmonics; below 0 hollow.",
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
    number({
      id: "damping",
      label: "Damping",
      unit: "octaves",
      min: 0,
      max: 4,
      default: 0,
      mod: "linear",
      help: "Shortens the decay with each octave.",
    }),
    number({
      id: "attack",
      label: "Attack",
      unit: "ratio",
      min: 0.05,
      max: 20,
      default: 1,
      taper: "log",
      mod: "octaves",
      help: "Factor on all attacks.",
    }),
    number({
      id: "spread",
      label: "Spread",
      unit: "percent",
      min: 0,
      max: 1,
      default: 1,
      mod: "linear",
      help: "Stereo spread of the partials' pans.",
    }),
    number({
      id: "phases",
      label: "Phases",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      mod: "linear",
      lowest: "together",
      help: "Start phases: 0 % aligned, as of a plucked string; 100 % spread, with less of a peak.",
    }),
  ],
  table: {
    label: "Partials",
    row: "partial",
    most: MOST,
    columns: COLUMNS,
    default: Array.from({ length: 16 }, (_, i) => ({
      ratio: i + 1,
      level: 0 - Math.round(120 * Math.log10(i + 1)) / 10,
    })),
  },
  cell: {
    kernel: "partials",
    pitched: true,
    most: () => MOST / 2,
    size: (_read, rows) => Math.ceil(rows / 2),
    variant: (_read, columns) =>
      (columns.includes("pan") ? PLACED : 0) +
      (columns.includes("decay") ? DYING : 0) +
      (columns.includes("attack") ? RISING : 0),
    tune: (read, out, pitch) => {
      both(out, 0, 2 ** pitch);
      both(out, 1, LEVEL);
      both(out, 2, read("tilt") / 20 / Math.log10(2));
      both(out, 3, read("stretch"));
      both(out, 4, read("spread"));
      both(out, 5, read("oddEven"));
      both(out, 6, Math.log2(read("decay")));
      both(out, 7, read("damping"));
      both(out, 8, read("phases"));
      both(out, 9, 1 / read("attack"));
    },
    rows: {
      numbers: 7,
      loud: 2,
      own: 10,
      put: ({ ratio = 1, level, pan = 0, detune = 0, decay = 0, attack = 0 }, rate, out, at) => {
        out[at] = Math.log2(ratio);
        out[at + 1] = detune / 1200;
        out[at + 2] = rowGain(level);
        out[at + 3] = pan;
        out[at + 4] = evenness(ratio);
        out[at + 5] = decay <= 0 ? HELD : Math.log2(SIXTY / (decay * rate));
        out[at + 6] = attack <= 0 ? 0 : 1 / (attack * rate);
      },
    },
  },
} as const satisfies UnitSpec;
