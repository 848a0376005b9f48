import { gainOf } from "../../audio";
import { number } from "../number";
import { PITCH } from "../pitch";
import { both, type UnitSpec } from "../unit";

const WAVES = [
  { id: "sine", label: "Sine" },
  { id: "triangle", label: "Triangle" },
  { id: "saw", label: "Saw" },
  { id: "pulse", label: "Pulse" },
] as const;
const STARTS = [
  { id: "fixed", label: "Fixed" },
  { id: "random", label: "Random" },
  { id: "free", label: "Free" },
] as const;
/** Parts of unison there may be, and the vectors of two that they lie in. */
const PARTS = 16;
const VECTORS = PARTS / 2;
/** A single wave at full swing has this level, as far below full level as a recorded sound. */
const LEVEL = 0.35;
/** Level at which the sub-oscillator is off. */
const SUB_OFF = -60;
const [WIDTH, BLEND, START, HOW, DEPTH, BEND, FED, DRIFT, SUB_CYCLES, SUB_GAIN, RATIO] = [
  24, 25, 26, 27, 28, 29, 30, 31, 32, 33, 34,
];

/** One of the simple waves, without aliases, alone or as several beside each other. */
export const oscillator = {
  kind: "oscillator",
  role: "source",
  label: "Oscillator",
  help: "A simple wave that follows the keys, alone or as several a little out of tune.",
  places: ["source"],
  links: "notes",
  linkedBy: "depth",
  first: ["wave", "into", "blend", "width", "unison", "detune", "spread", "sub", "depth"],
  params: [
    {
      type: "choice",
      id: "wave",
      label: "Wave",
      choices: WAVES,
      default: "saw",
      help: "Sine: one partial. Triangle: soft odd ones. Saw: all. Pulse: hollow or thin by its width.",
    },
    {
      type: "choice",
      id: "into",
      label: "Towards",
      choices: WAVES,
      default: "sine",
      help: "The wave at the other end of the blend.",
    },
    number({
      id: "blend",
      label: "Blend",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      mod: "linear",
      help: "How far the sound is on its way from the one wave to the other.",
    }),
    number({
      id: "width",
      label: "Width",
      unit: "percent",
      min: 0.02,
      max: 0.98,
      default: 0.5,
      mod: "linear",
      help: "How much of its cycle the pulse is up; 50 % has odd partials only.",
    }),
    ...PITCH,
    number({
      id: "unison",
      label: "Unison",
      unit: "count",
      min: 1,
      max: PARTS,
      default: 1,
      help: "How many sound at once.",
    }),
    number({
      id: "detune",
      label: "Detune",
      unit: "cents",
      min: 0,
      max: 100,
      default: 15,
      mod: "linear",
      help: "How far the outermost of several are out of tune.",
    }),
    number({
      id: "spread",
      label: "Spread",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.7,
      mod: "linear",
      help: "How far apart to the left and the right several stand.",
    }),
    number({
      id: "drift",
      label: "Drift",
      unit: "cents",
      min: 0,
      max: 50,
      default: 0,
      mod: "linear",
      help: "How far each wanders out of tune and back, slowly and by chance, as old machines do.",
    }),
    number({
      id: "sub",
      label: "Sub",
      unit: "decibels",
      min: SUB_OFF,
      max: 12,
      default: SUB_OFF,
      mod: "linear",
      lowest: "off",
      help: "How loud a second, lower wave is: it gives a body to what is thin.",
    }),
    {
      type: "choice",
      id: "subWave",
      label: "Sub wave",
      choices: [
        { id: "sine", label: "Sine" },
        { id: "pulse", label: "Pulse" },
      ],
      default: "sine",
      help: "What the lower wave is: round, or hollow.",
    },
    number({
      id: "subDown",
      label: "Sub below",
      unit: "semitones",
      min: 0,
      max: 36,
      default: 12,
      help: "How far below the key it sounds.",
    }),
    {
      type: "choice",
      id: "sync",
      label: "Sync",
      choices: [
        { id: "off", label: "Off" },
        { id: "on", label: "Begins anew with the key’s cycle" },
      ],
      default: "off",
      help: "The wave goes faster than the key and is begun anew with each of the key’s cycles: its pitch becomes a colour.",
    },
    number({
      id: "above",
      label: "Sync above",
      unit: "semitones",
      min: 0,
      max: 60,
      default: 7,
      mod: "linear",
      help: "How far above the key the wave goes.",
    }),
    number({
      id: "bend",
      label: "Phase bend",
      unit: "percent",
      min: -1,
      max: 1,
      default: 0,
      mod: "linear",
      help: "How much faster the wave runs through one half of its cycle than through the other: a sine becomes brighter.",
    }),
    number({
      id: "fed",
      label: "Feedback",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      mod: "linear",
      help: "How far its own sound moves its phase: a sine becomes a saw, then noise.",
    }),
    {
      type: "choice",
      id: "begins",
      label: "Begins",
      choices: STARTS,
      default: "fixed",
      help: "Fixed: each note at the same place of the cycle. Random: anywhere. Free: as if it had been running all the time.",
    },
    number({
      id: "phase",
      label: "Phase",
      unit: "degrees",
      min: 0,
      max: 360,
      default: 0,
      mod: "linear",
      help: "Where in its cycle each note begins.",
    }),
    number({
      id: "depth",
      label: "Phase depth",
      unit: "ratio",
      min: 0,
      max: 8,
      default: 0.5,
      mod: "linear",
      help: "How many cycles another layer moves its phase at full level: two simple waves become bells, brass, glass.",
    }),
  ],
  cell: {
    kernel: "oscillator",
    pitched: true,
    waves: true,
    keeps: true,
    variant: (read) => read("wave") + read("into") * 4 + read("subWave") * 16 + read("sync") * 32,
    tune: (read, out, pitch) => {
      const count = Math.round(read("unison"));
      const detune = read("detune") / 1200;
      const spread = read("spread");
      const level = LEVEL / Math.sqrt(count);
      for (let part = 0; part < PARTS; part++) {
        // From −1 to 1 over those that sound.
        const place = count > 1 && part < count ? (2 * part) / (count - 1) - 1 : 0;
        out[part] = 2 ** (pitch + place * detune);
        const angle = ((1 + place * spread) * Math.PI) / 4;
        const gain = part < count ? level * Math.SQRT2 : 0;
        out[2 * VECTORS + part] = gain * Math.cos(angle);
        out[4 * VECTORS + part] = gain * Math.sin(angle);
      }
      both(out, WIDTH, read("width"));
      both(out, BLEND, read("blend"));
      both(out, START, (read("phase") / 360) % 1);
      both(out, HOW, read("begins"));
      both(out, DEPTH, read("depth"));
      both(out, BEND, read("bend"));
      both(out, FED, read("fed"));
      both(out, DRIFT, read("drift") / 1200);
      both(out, SUB_CYCLES, 2 ** (pitch - read("subDown") / 12));
      both(out, RATIO, 2 ** (read("above") / 12));
      both(out, SUB_GAIN, read("sub") <= SUB_OFF ? 0 : LEVEL * gainOf(read("sub")));
    },
  },
} as const satisfies UnitSpec;
