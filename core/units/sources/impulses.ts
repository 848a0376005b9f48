import type { Hertz } from "../../audio";
import { number } from "../number";
import { PITCH } from "../pitch";
import { both, type UnitSpec } from "../unit";

/** Poles of the tilt: the lowest, how many, and octaves from one to the next. */
const LOWEST: Hertz = 16;
const SECTIONS = 9;
const APART = 1.25;
/** Decibels an octave of one pole. */
const POLE_SLOPE = 20 * Math.log10(2);
const [JITTER, ZERO, POLE] = [2, 3, 3 + SECTIONS];

/** Gain of a section with such a zero and pole at an angle. */
const gainOfSection = (zero: number, pole: number, angle: number): number => {
  const size = (r: number) => Math.hypot(1 - r * Math.cos(angle), r * Math.sin(angle));
  return size(zero) / size(pole);
};

/** Band-limited impulses at the pitch of the key. */
export const impulses = {
  kind: "impulses",
  role: "source",
  label: "Impulses",
  help: "Impulse train: one click a cycle, all harmonics equally strong; excites resonators.",
  places: ["source"],
  params: [
    ...PITCH,
    number({
      id: "tilt",
      label: "Tilt",
      unit: "decibels",
      min: -12,
      max: 6,
      default: 0,
      mod: "linear",
      help: "Spectral tilt in decibels an octave.",
    }),
    number({
      id: "jitter",
      label: "Jitter",
      unit: "percent",
      min: 0,
      max: 0.5,
      default: 0,
      mod: "linear",
      help: "Random variation of the period: roughness, breath, rattle.",
    }),
  ],
  cell: {
    kernel: "impulses",
    pitched: true,
    tune: (read, out, pitch, rate) => {
      const cycles = 2 ** pitch;
      both(out, 0, cycles);
      both(out, JITTER, read("jitter"));
      const steep = -read("tilt") / POLE_SLOPE;
      let gain = 1;
      for (let s = 0; s < SECTIONS; s++) {
        const hertz = LOWEST * 2 ** (s * APART);
        const pole = Math.exp((-2 * Math.PI * hertz) / rate);
        const zero = Math.exp((-2 * Math.PI * hertz * 2 ** (steep * APART)) / rate);
        both(out, ZERO + s, zero);
        both(out, POLE + s, pole);
        gain *= gainOfSection(zero, pole, 2 * Math.PI * Math.min(0.5, cycles));
      }
      both(out, 1, 1 / gain);
    },
  },
} as const satisfies UnitSpec;
