import { fftOf } from "../../core/audio";

/** What of an oscillator's settings its wave comes from. */
export interface WaveSettings {
  readonly wave: string;
  readonly into: string;
  readonly blend: number;
  readonly width: number;
  readonly bend: number;
  readonly fed: number;
  /** How many times faster than the cycle the wave goes, begun anew with each; 1: it isn't synced. */
  readonly ratio: number;
}

const POINTS = 512;
/** Rounds after which what is fed back has come to rest. */
const ROUNDS = 3;

/** A simple wave at a place in its cycle (0 to 1), without the limits of a rate. */
function simple(wave: string, at: number, width: number): number {
  const t = at - Math.floor(at);
  if (wave === "sine") return Math.sin(2 * Math.PI * t);
  if (wave === "triangle") return Math.abs(((t + 0.75) % 1) * 4 - 2) - 1;
  const saw = (x: number) => 1 - 2 * (x - Math.floor(x));
  return wave === "saw" ? saw(t) : saw(t) - saw(t + width);
}

/** One cycle of an oscillator, as it goes through its phase bent, fed by itself and blended; about −1 to 1. */
export function cycleOf({ wave, into, blend, width, bend, fed, ratio }: WaveSettings): Float64Array {
  const out = new Float64Array(POINTS);
  let [last, before] = [0, 0];
  for (let round = 0; round < (fed > 0 ? ROUNDS : 1); round++)
    for (let i = 0; i < POINTS; i++) {
      const t = i / POINTS;
      const at =
        ratio !== 1 ? t * ratio : t + (bend * Math.sin(2 * Math.PI * t)) / (2 * Math.PI) + fed * 0.25 * (last + before);
      const y = simple(wave, at, width) * (1 - blend) + (blend > 0 ? blend * simple(into, at, width) : 0);
      before = last;
      last = y;
      out[i] = y;
    }
  return out;
}

/** Levels of the harmonics of a cycle from the first on, in decibels of a full sine. */
export function harmonicsOf(cycle: Float64Array, count: number): number[] {
  const re = Float64Array.from(cycle);
  const im = new Float64Array(cycle.length);
  fftOf(cycle.length).forward(re, im);
  return Array.from({ length: count }, (_, h) =>
    Math.max(-120, 20 * Math.log10((2 / cycle.length) * Math.hypot(re[h + 1] as number, im[h + 1] as number) + 1e-9)),
  );
}
