import { type BandKind, Equaliser } from "../../dsp";
import { number } from "../number";
import { ON } from "../on";
import { BUSES, type UnitSpec } from "../unit";

const KINDS = [
  { id: "off", label: "Off" },
  { id: "lowCut", label: "Low cut" },
  { id: "lowShelf", label: "Low shelf" },
  { id: "bell", label: "Bell" },
  { id: "highShelf", label: "High shelf" },
  { id: "highCut", label: "High cut" },
] as const satisfies readonly { readonly id: BandKind; readonly label: string }[];

const BANDS = [1, 2, 3, 4, 5, 6, 7, 8] as const;

/** The parameters of one band. */
const band = <N extends number>(n: N, kind: BandKind, frequency: number) =>
  [
    {
      type: "choice",
      id: `kind${n}`,
      label: `Type ${n}`,
      choices: KINDS,
      default: kind,
      help: "Filter type of the band.",
    },
    number({
      id: `frequency${n}`,
      label: `Freq ${n}`,
      unit: "hertz",
      min: 20,
      max: 20000,
      default: frequency,
      taper: "log",
      mod: "octaves",
      help: "Frequency of the band.",
    }),
    number({
      id: `gain${n}`,
      label: `Gain ${n}`,
      unit: "decibels",
      min: -24,
      max: 24,
      default: 0,
      mod: "linear",
      help: "Boost or cut of bells and shelves.",
    }),
    number({
      id: `q${n}`,
      label: `Q ${n}`,
      unit: "ratio",
      min: 0.1,
      max: 20,
      default: 0.7,
      taper: "log",
      mod: "octaves",
      help: "Q: 0.7 is flat for cuts and shelves, higher is narrower.",
    }),
  ] as const;

/** Eight bands, of which most begin switched off. */
export const equaliser = {
  kind: "equaliser",
  role: "effect",
  label: "Equaliser",
  help: "Eight-band parametric equaliser.",
  places: BUSES,
  params: [
    ON,
    ...band(1, "off", 40),
    ...band(2, "lowShelf", 120),
    ...band(3, "bell", 400),
    ...band(4, "bell", 2000),
    ...band(5, "highShelf", 7000),
    ...band(6, "off", 200),
    ...band(7, "off", 1000),
    ...band(8, "off", 12000),
  ],
  block: (rate) => {
    const unit = new Equaliser(rate, BANDS.length);
    return {
      unit,
      tune: (read) => {
        for (let n = 1; n <= BANDS.length; n++) {
          unit.bands[n - 1]?.tune({
            kind: KINDS[read(`kind${n}`)]?.id ?? "off",
            frequency: read(`frequency${n}`),
            gain: read(`gain${n}`),
            q: read(`q${n}`),
          });
        }
      },
    };
  },
} as const satisfies UnitSpec;
