import { gainOf } from "../../audio";
import { blockOf } from "../cell-block";
import { mix, number } from "../number";
import { ON } from "../on";
import { BUSES, both, type UnitSpec, type VoiceCell } from "../unit";

const BANDS = 4;
const MIX = 16;
/** Formants in hertz and their levels in decibels as men speak them (Peterson and Barney, 1952): ee, eh, ah, aw, oo; the fourth is about the same in all. */
const VOWELS = [
  { hertz: [270, 2290, 3010, 3500], level: [-4, -24, -28, -36] },
  { hertz: [530, 1840, 2480, 3500], level: [-2, -17, -24, -36] },
  { hertz: [730, 1090, 2440, 3500], level: [-1, -5, -28, -36] },
  { hertz: [570, 840, 2410, 3500], level: [0, -7, -34, -40] },
  { hertz: [300, 870, 2240, 3500], level: [-3, -19, -43, -45] },
] as const;
/** Widths of the bands, in hertz. */
const WIDTHS = [60, 90, 120, 150] as const;
/** What four narrow bands leave of a sound is given back. */
const GAIN = gainOf(9);

/** One formant: its frequency in hertz, its level as a factor, and its width over its frequency. */
export interface Formant {
  readonly hertz: number;
  readonly level: number;
  readonly width: number;
}

/** The formants of a mouth: `vowel` 0 (ee) to 1 (oo), moved by `size` semitones, so many times as wide. */
export function formantsOf(vowel: number, size: number, width: number): Formant[] {
  const at = Math.min(1, Math.max(0, vowel)) * (VOWELS.length - 1);
  const from = Math.min(VOWELS.length - 2, Math.floor(at));
  return WIDTHS.map((_, n) => {
    const formant = { hertz: 0, level: 0, width: 0 };
    placeFormant(formant, n, from, at - from, 2 ** (size / 12), width);
    return formant;
  });
}

/** Between two vowels frequencies move by octaves, levels by decibels. */
function placeFormant(
  out: { hertz: number; level: number; width: number },
  n: number,
  from: number,
  t: number,
  moved: number,
  width: number,
): void {
  const a = VOWELS[from] ?? VOWELS[0];
  const b = VOWELS[from + 1] ?? a;
  out.hertz = (a.hertz[n] as number) ** (1 - t) * (b.hertz[n] as number) ** t * moved;
  out.level = gainOf((a.level[n] as number) * (1 - t) + (b.level[n] as number) * t);
  out.width = Math.min(2, ((WIDTHS[n] as number) * width) / out.hertz);
}

const SCRATCH = { hertz: 0, level: 0, width: 0 };

const CELL: VoiceCell = {
  kernel: "formants",
  ring: 0,
  tune: (read, out, _pitch, rate) => {
    const at = Math.min(1, Math.max(0, read("vowel"))) * (VOWELS.length - 1);
    const from = Math.min(VOWELS.length - 2, Math.floor(at));
    const moved = 2 ** (read("size") / 12);
    for (let n = 0; n < BANDS; n++) {
      placeFormant(SCRATCH, n, from, at - from, moved, read("width"));
      const { hertz, level, width: k } = SCRATCH;
      const g = Math.tan(Math.PI * Math.min(0.45, hertz / rate));
      const a1 = 1 / (1 + g * (g + k));
      both(out, n * 4, 2 * a1 - 1);
      both(out, n * 4 + 1, 2 * g * a1);
      both(out, n * 4 + 2, 2 * g * g * a1);
      // The mean of its states before and after is the band; by k it is 1 in its middle.
      both(out, n * 4 + 3, 0.5 * k * level * GAIN);
    }
    both(out, MIX, read("mix"));
  },
};

/** A mouth: four formants that move from vowel to vowel. */
export const vowel = {
  kind: "vowel",
  role: "stage",
  label: "Vowel filter",
  help: "Formant filter: vowels from ee over ah to oo.",
  places: ["stage", ...BUSES],
  params: [
    ON,
    mix(0.8, "Balance of dry and filtered sound."),
    number({
      id: "vowel",
      label: "Vowel",
      unit: "percent",
      min: 0,
      max: 1,
      default: 0.5,
      mod: "linear",
      help: "0 % ee, 25 % eh, 50 % ah, 75 % aw, 100 % oo, and all between.",
    }),
    number({
      id: "size",
      label: "Size",
      unit: "semitones",
      min: -12,
      max: 12,
      default: 0,
      mod: "linear",
      help: "Shift of all formants: down a giant, up a child.",
    }),
    number({
      id: "width",
      label: "Width",
      unit: "ratio",
      min: 0.25,
      max: 8,
      default: 1,
      taper: "log",
      mod: "octaves",
      help: "Bandwidth of the formants.",
    }),
  ],
  cell: CELL,
  block: blockOf(CELL),
} as const satisfies UnitSpec;
