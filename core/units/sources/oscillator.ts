import { number } from "../number";
import { PITCH } from "../pitch";
import { both, type UnitSpec } from "../unit";

const WAVES = [
  { id: "sine", label: "Sine" },
  { id: "triangle", label: "Triangle" },
  { id: "saw", label: "Saw" },
  { id: "pulse", label: "Pulse" },
] as const;
const PULSE = WAVES.findIndex((w) => w.id === "pulse");
/** Parts of unison there may be. */
const PARTS = 8;
/** A single wave at full swing has this level, as far below full level as a recorded sound. */
const LEVEL = 0.35;
const WIDTH = 12;
const OFF = 13;
const START = 14;
const DEPTH = 15;

/** One of the simple waves, without aliases, alone or as several beside each other. */
export const oscillator = {
  kind: "oscillator",
  role: "source",
  label: "Oscillator",
  help: "A simple wave that follows the keys, alone or as several a little out of tune.",
  places: ["source"],
  links: "notes",
  params: [
    {
      type: "choice",
      id: "wave",
      label: "Wave",
      choices: WAVES,
      default: "saw",
      help: "Sine: one partial. Triangle: soft odd ones. Saw: all. Pulse: hollow or thin by its width.",
    },
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
    variant: (read) => (read("wave") === PULSE ? 1 : 0),
    wave: (read) => (["sine", "triangle", "saw", "saw"] as const)[read("wave")] ?? "saw",
    tune: (read, out, pitch) => {
      const count = Math.round(read("unison"));
      const detune = read("detune") / 1200;
      const spread = read("spread");
      const level = LEVEL / Math.sqrt(count);
      for (let part = 0; part < PARTS; part++) {
        // From −1 to 1 over those that sound.
        const place = count > 1 && part < count ? (2 * part) / (count - 1) - 1 : 0;
        const at = (part >> 1) * 2 + (part & 1);
        out[at] = 2 ** (pitch + place * detune);
        const angle = ((1 + place * spread) * Math.PI) / 4;
        const gain = part < count ? level * Math.SQRT2 : 0;
        out[8 + at] = gain * Math.cos(angle);
        out[16 + at] = gain * Math.sin(angle);
      }
      both(out, WIDTH, read("width"));
      both(out, OFF, 1);
      both(out, START, (read("phase") / 360) % 1);
      both(out, DEPTH, read("depth"));
    },
  },
} as const satisfies UnitSpec;
