import { gainOf } from "../../audio";
import { number } from "../number";
import { PITCH } from "../pitch";
import { both, type UnitSpec } from "../unit";

const MOST = 64;
const LEVEL = 0.25;
/** Lowest level of a partial: none. */
const OFF = -96;

const COLUMNS = [
  number({
    id: "ratio",
    label: "Ratio",
    unit: "ratio",
    min: 0.1,
    max: 128,
    default: 1,
    taper: "log",
    help: "Its frequency, as a multiple of the key's.",
  }),
  number({
    id: "level",
    label: "Level",
    unit: "decibels",
    min: OFF,
    max: 0,
    default: 0,
    lowest: "off",
    help: "How loud it is.",
  }),
] as const;

/** Sines at any ratios: additive synthesis. */
export const partials = {
  kind: "partials",
  role: "source",
  label: "Partials",
  help: "Up to 64 sines at ratios and levels of your own: organs, bells, voices.",
  places: ["source"],
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
      help: "How much louder each octave of partials is than the one below.",
    }),
    number({
      id: "stretch",
      label: "Stretch",
      unit: "percent",
      min: -0.5,
      max: 0.5,
      default: 0,
      mod: "linear",
      help: "How much farther apart the partials are, in octaves: stiff strings a little, bells a lot.",
    }),
  ],
  table: {
    label: "Partials",
    row: "partial",
    most: MOST,
    columns: COLUMNS,
    default: Array.from({ length: 16 }, (_, i) => ({ ratio: i + 1, level: -Math.round(120 * Math.log10(i + 1)) / 10 })),
  },
  cell: {
    kernel: "partials",
    pitched: true,
    most: () => MOST / 2,
    size: (_read, rows) => Math.ceil(rows / 2),
    tune: (read, out, pitch) => {
      both(out, 0, 2 ** pitch);
      both(out, 1, LEVEL);
      both(out, 2, read("tilt") / 20 / Math.log10(2));
      both(out, 3, read("stretch"));
    },
    table: (rows) => {
      const out = new Float32Array(Math.max(1, Math.ceil(rows.length / 2)) * 8);
      rows.forEach(({ ratio = 1, level = OFF }, i) => {
        for (const voice of [0, 2]) {
          const at = (i >> 1) * 8 + voice + (i & 1);
          out[at] = Math.log2(ratio);
          out[at + 4] = level <= OFF ? 0 : gainOf(level);
        }
      });
      return out;
    },
  },
} as const satisfies UnitSpec;
