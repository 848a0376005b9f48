import { PHASE_BITS, PHASES } from "./kernels/layout";

/** One windowed-sinc table: `rows` holds, for each phase, the taps and then their differences to the next phase. */
export interface SincBank {
  readonly taps: number;
  readonly rows: Float32Array;
  /** The fastest playback rate for which it is meant. */
  readonly upTo: number;
}

/** Modified Bessel function of the first kind, order 0, by its series. */
function bessel0(x: number): number {
  let sum = 1;
  let term = 1;
  for (let k = 1; term > sum * 1e-17; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

/** Weight of the kernel at a distance in frames: a sinc of that cutoff (in cycles per frame) under a Kaiser window (Kaiser, 1974). */
function kernelAt(distance: number, taps: number, cutoff: number, beta: number): number {
  const edge = (2 * distance) / taps;
  if (Math.abs(edge) >= 1) return 0;
  const x = 2 * Math.PI * cutoff * distance;
  const sinc = x === 0 ? 2 * cutoff : (2 * cutoff * Math.sin(x)) / x;
  return (sinc * bessel0(beta * Math.sqrt(1 - edge * edge))) / bessel0(beta);
}

function makeBank(taps: number, cutoff: number, beta: number, upTo: number): SincBank {
  const rows = new Float32Array(PHASES * taps * 2);
  const half = taps / 2 - 1;
  const phase = (p: number): number[] => {
    const weights = Array.from({ length: taps }, (_, t) => kernelAt(t - half - p / PHASES, taps, cutoff, beta));
    const sum = weights.reduce((a, b) => a + b, 0);
    return weights.map((w) => w / sum);
  };
  let here = phase(0);
  for (let p = 0; p < PHASES; p++) {
    const next = phase(p + 1);
    for (let t = 0; t < taps; t++) {
      rows[p * taps * 2 + t] = here[t] ?? 0;
      rows[p * taps * 2 + taps + t] = (next[t] ?? 0) - (here[t] ?? 0);
    }
    here = next;
  }
  return { taps, rows, upTo };
}

/**
 * The interpolation banks, slowest first: band-limited interpolation after Smith and Gossett (1984). Near rate 1 a kernel
 * of 16 taps passes what the sample holds; above, the cutoff falls with the rate, so that little is folded back. Cutoff and
 * window are chosen so that what a tone gains between its samples stays below −90 dB at every frequency that passes.
 */
export const makeBanks = (): SincBank[] => [
  makeBank(16, 0.44, 10, 1.26),
  makeBank(24, 0.385, 10.5, 1.6),
  makeBank(32, 0.29, 10.5, 2.1),
  makeBank(48, 0.2, 10.5, 3.1),
  makeBank(64, 0.14, 10.5, Number.POSITIVE_INFINITY),
];

/** Most taps of any bank: samples need half as many silent frames on either side. */
export const MOST_TAPS = 64;

/** One interpolated value in plain TypeScript, as the kernel computes it; `position` in frames. The kernel's reference. */
export function interpolate(bank: SincBank, read: (frame: number) => number, position: number): number {
  const index = Math.floor(position);
  const exact = (position - index) * PHASES;
  const phase = Math.floor(exact) & ((1 << PHASE_BITS) - 1);
  const rest = exact - Math.floor(exact);
  const row = phase * bank.taps * 2;
  let sum = 0;
  for (let t = 0; t < bank.taps; t++) {
    const weight = (bank.rows[row + t] as number) + rest * (bank.rows[row + bank.taps + t] as number);
    sum += weight * read(index - (bank.taps / 2 - 1) + t);
  }
  return sum;
}
