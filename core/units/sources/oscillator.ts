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
  { id: "free", label: "Free-running" },
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
  help: "Classic waveforms, with unison, sub, sync and phase modulation.",
  places: ["source"],
  links: "notes",
  linkedBy: "phaseModulation",
  first: ["wave", "secondWave", "blend", "width", "unison", "detune", "spread", "sub", "phaseModulation"],
  params: [
    {
      type: "choice",
      id: "wave",
      label: "Wave",
      choices: WAVES,
      default: "saw",
      help: "Waveform.",
    },
    {
      type: "choice",
      id: "secondWave",
      label: "Second wave",
      choices: WAVES,
      default: "sine",
      help: "Waveform at the other end of the blend.",
    },
    number({
      id: "blend",
      label: "Blend",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Blend from the first to the second wave.",
    }),
    number({
      id: "width",
      label: "Width",
      unit: "percent",
      min: 0.02,
      max: 0.98,
      default: 0.5,
      mod: "linear",
      help: "Pulse width; 50 % is a square.",
    }),
    ...PITCH,
    number({
      id: "unison",
      label: "Unison",
      unit: "count",
      min: 1,
      max: PARTS,
      default: 1,
      help: "Number of unison voices.",
    }),
    number({
      id: "detune",
      label: "Detune",
      unit: "cents",
      min: 0,
      max: 100,
      default: 15,
      mod: "linear",
      help: "Detuning of the outermost unison voices.",
    }),
    number({
      id: "spread",
      label: "Spread",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.7,
      mod: "linear",
      help: "Stereo spread of the unison voices.",
    }),
    number({
      id: "drift",
      label: "Drift",
      unit: "cents",
      min: 0,
      max: 50,
      default: 0,
      mod: "linear",
      help: "Slow random pitch drift, as of analogue oscillators.",
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
      help: "Level of the sub-oscillator.",
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
      help: "Waveform of the sub-oscillator.",
    },
    number({
      id: "subInterval",
      label: "Sub interval",
      unit: "semitones",
      min: 0,
      max: 36,
      default: 12,
      help: "Interval of the sub-oscillator below the note.",
    }),
    {
      type: "choice",
      id: "hardSync",
      label: "Hard sync",
      choices: [
        { id: "off", label: "Off" },
        { id: "on", label: "On" },
      ],
      default: "off",
      help: "Restarts the wave with each cycle of the note, so that its own pitch becomes a colour.",
    },
    number({
      id: "syncPitch",
      label: "Sync pitch",
      unit: "semitones",
      min: 0,
      max: 60,
      default: 7,
      mod: "linear",
      help: "Pitch of the synced wave above the note.",
    }),
    number({
      id: "phaseDistortion",
      label: "Phase distortion",
      unit: "percent",
      min: -1,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Phase distortion: a sine becomes brighter.",
    }),
    number({
      id: "feedback",
      label: "Feedback",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Phase modulation by itself: a sine becomes a saw, then noise.",
    }),
    {
      type: "choice",
      id: "startPhase",
      label: "Start phase",
      choices: STARTS,
      default: "fixed",
      help: "Phase at note on: fixed, random, or free-running.",
    },
    number({
      id: "phase",
      label: "Phase",
      unit: "degrees",
      min: 0,
      max: 360,
      default: 0,
      mod: "linear",
      help: "Phase at which each note starts.",
    }),
    number({
      id: "phaseModulation",
      label: "Phase modulation",
      unit: "ratio",
      min: 0,
      max: 8,
      default: 0.5,
      mod: "linear",
      help: "Depth of phase modulation by another layer, in cycles.",
    }),
  ],
  cell: {
    kernel: "oscillator",
    pitched: true,
    waves: true,
    keeps: true,
    variant: (read) => read("wave") + read("secondWave") * 4 + read("subWave") * 16 + read("hardSync") * 32,
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
      both(out, HOW, read("startPhase"));
      both(out, DEPTH, read("phaseModulation"));
      both(out, BEND, read("phaseDistortion"));
      both(out, FED, read("feedback"));
      both(out, DRIFT, read("drift") / 1200);
      both(out, SUB_CYCLES, 2 ** (pitch - read("subInterval") / 12));
      both(out, RATIO, 2 ** (read("syncPitch") / 12));
      both(out, SUB_GAIN, read("sub") <= SUB_OFF ? 0 : LEVEL * gainOf(read("sub")));
    },
  },
} as const satisfies UnitSpec;
