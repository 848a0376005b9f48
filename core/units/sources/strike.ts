import { gainOf } from "../../audio";
import { number, time } from "../number";
import { PITCH } from "../pitch";
import { both, type UnitSpec } from "../unit";

const decibels = <const I extends string>(id: I, label: string, value: number, help: string) =>
  number({ id, label, unit: "decibels", min: -60, max: 12, default: value, mod: "linear", lowest: "off", help });

const bend = <const I extends string>(id: I, label: string) =>
  number({
    id,
    label,
    unit: "percent",
    min: -1,
    max: 1,
    default: 0,
    mod: "linear",
    help: "Curve of the decay: 0 % exponential, −100 % steeper at first, 100 % linear.",
  });

/** What is left after a frame of what falls by 60 dB in so many seconds. */
const keep = (seconds: number, rate: number): number => 10 ** (-3 / Math.max(1, seconds * rate));
const level = (db: number): number => (db <= -60 ? 0 : gainOf(db));

/** A knock: a tone that falls to its pitch, and noise. */
export const strike = {
  kind: "strike",
  role: "source",
  label: "Strike",
  help: "Drum synthesis: a tone with a pitch drop and a burst of noise; also excites resonators.",
  places: ["source"],
  first: ["tone", "toneLength", "pitchDrop", "noise", "noiseLength", "cutoff"],
  params: [
    ...PITCH,
    decibels("tone", "Tone", -9, "Level of the tone."),
    time("toneLength", "Tone length", 0.3, 8, "Decay of the tone (by 60 dB)."),
    bend("toneCurve", "Tone curve"),
    time("hold", "Hold", 0, 0.2, "Time at full level before the decay: punch."),
    number({
      id: "pitchDrop",
      label: "Pitch drop",
      unit: "semitones",
      min: 0,
      max: 60,
      default: 18,
      mod: "linear",
      help: "Pitch above the note at the start.",
    }),
    time("dropTime", "Drop time", 0.06, 2, "Time of the pitch drop."),
    decibels("noise", "Noise", -12, "Level of the noise."),
    time("noiseLength", "Noise length", 0.05, 4, "Decay of the noise (by 60 dB)."),
    bend("noiseCurve", "Noise curve"),
    number({
      id: "cutoff",
      label: "Noise cutoff",
      unit: "hertz",
      min: 50,
      max: 20000,
      default: 6000,
      taper: "log",
      mod: "octaves",
      help: "Low-pass cutoff of the noise, 12 dB an octave.",
    }),
  ],
  cell: {
    kernel: "strike",
    pitched: true,
    tune: (read, out, pitch, rate) => {
      both(out, 0, 2 ** Math.min(-1, pitch));
      both(out, 1, read("pitchDrop") / 12);
      both(out, 2, keep(read("dropTime"), rate));
      both(out, 3, level(read("tone")));
      both(out, 4, keep(read("toneLength"), rate));
      both(out, 5, level(read("noise")));
      both(out, 6, keep(read("noiseLength"), rate));
      // The state-variable filter without resonance, as a matrix of trapezoidal steps.
      const g = Math.tan(Math.PI * Math.min(0.45, read("cutoff") / rate));
      const a1 = 1 / (1 + g * (g + Math.SQRT2));
      both(out, 7, 2 * a1 - 1);
      both(out, 8, 2 * g * a1);
      both(out, 9, 2 * g * g * a1);
      both(out, 10, read("toneCurve"));
      both(out, 11, read("noiseCurve"));
      both(out, 12, 1 / Math.max(1, read("toneLength") * rate));
      both(out, 13, 1 / Math.max(1, read("noiseLength") * rate));
      both(out, 14, read("hold") * rate);
    },
  },
} as const satisfies UnitSpec;
