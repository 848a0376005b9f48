import { PHASE_BITS, PHASES } from "./kernels/layout";

/** One windowed-sinc table: `rows` holds, for each phase, the taps and then their differences to the next phase. */
export interface SincBank {
  readonly taps: number;
  readonly rows: Float32Array;
  /** The fastest playback rate for which it is meant. */
  readonly upTo: number;
}

/** Modified Bessel function of the first kind, order 0, by its series; of the square of its argument. */
function bessel0(squared: number): number {
  const quarter = squared / 4;
  let sum = 1;
  let term = 1;
  for (let k = 1; term > sum * 1e-17; k++) {
    term *= quarter / (k * k);
    sum += term;
  }
  return sum;
}

/** Points of the kernel between two frames: each phase and each middle between two phases. */
const FINE = PHASES * 2;

/** The kernel at distances of 1/FINE of a frame, from its middle outwards: a sinc of a cutoff (cycles per frame) under a Kaiser window (Kaiser, 1974). */
function kernelTable(taps: number, cutoff: number, beta: number): Float64Array {
  const top = bessel0(beta * beta);
  const size = (taps / 2) * FINE;
  const { sin, PI } = Math;
  const out = new Float64Array(size + 1);
  out[0] = 2 * cutoff;
  for (let i = 1; i < size; i++) {
    const edge = i / size;
    const x = (2 * PI * cutoff * i) / FINE;
    out[i] = ((2 * cutoff * sin(x)) / x) * (bessel0(beta * beta * (1 - edge * edge)) / top);
  }
  return out;
}

/**
 * Rows from the weights of a phase (0–1 of a frame). Between two phases a straight line stands for the true weights: the one
 * whose error is evenly spread, half a chord's.
 */
function bankOf(taps: number, upTo: number, weightsAt: (phase: number) => ArrayLike<number>): SincBank {
  const rows = new Float32Array(PHASES * taps * 2);
  let here = weightsAt(0);
  for (let p = 0; p < PHASES; p++) {
    const middle = weightsAt((p + 0.5) / PHASES);
    const next = weightsAt((p + 1) / PHASES);
    for (let t = 0; t < taps; t++) {
      const [a, m, b] = [here[t] ?? 0, middle[t] ?? 0, next[t] ?? 0];
      rows[p * taps * 2 + t] = a + (m - (a + b) / 2) / 2;
      rows[p * taps * 2 + taps + t] = b - a;
    }
    here = next;
  }
  return { taps, rows, upTo };
}

function makeBank(taps: number, cutoff: number, beta: number, upTo: number): SincBank {
  const table = kernelTable(taps, cutoff, beta);
  const half = taps / 2 - 1;
  return bankOf(taps, upTo, (phase) => {
    const weights = new Float64Array(taps);
    const fine = Math.round(phase * FINE);
    let sum = 0;
    for (let t = 0; t < taps; t++) {
      const at = (t - half) * FINE - fine;
      const w = table[at < 0 ? -at : at] as number;
      weights[t] = w;
      sum += w;
    }
    for (let t = 0; t < taps; t++) weights[t] = (weights[t] as number) / sum;
    return weights;
  });
}

/** Weights of the cubic through four points with the slopes of their neighbours (Catmull and Rom, 1974). */
const cubicAt = (x: number): readonly number[] => [
  ((2 - x) * x - 1) * x * 0.5,
  ((3 * x - 5) * x * x + 2) * 0.5,
  ((4 - 3 * x) * x + 1) * x * 0.5,
  (x - 1) * x * x * 0.5,
];

export type Quality = "full" | "economy" | "best";

/**
 * The interpolation banks of a quality, slowest first: band-limited interpolation after Smith and Gossett (1984). Near rate 1 a
 * kernel of 16 taps passes what the sample holds; above, the cutoff falls with the rate, so that little is folded back. Cutoff
 * and window are chosen so that what a tone gains between its samples stays below −90 dB at every frequency that passes. `best`,
 * for rendering, passes more and lets through less; `economy` is a cubic through four points, which folds what rises too high.
 */
export function banksOf(quality: Quality = "full"): readonly SincBank[] {
  const known = made.get(quality);
  if (known) return known;
  const banks = makeBanks(quality);
  made.set(quality, banks);
  return banks;
}

/** Banks are made once for each quality: that takes as long as half a second of a small instrument's sound. */
const made = new Map<Quality, readonly SincBank[]>();

function makeBanks(quality: Quality): readonly SincBank[] {
  switch (quality) {
    case "economy":
      return [bankOf(4, Number.POSITIVE_INFINITY, cubicAt)];
    case "full":
      return [
        makeBank(16, 0.44, 10, 1.26),
        makeBank(24, 0.385, 10.5, 1.6),
        makeBank(32, 0.29, 10.5, 2.1),
        makeBank(48, 0.2, 10.5, 3.1),
        makeBank(64, 0.14, 10.5, Number.POSITIVE_INFINITY),
      ];
    case "best":
      return [
        makeBank(48, 0.465, 12, 1.06),
        makeBank(64, 0.405, 12, 1.26),
        makeBank(80, 0.33, 12, 1.6),
        makeBank(96, 0.26, 12, 2.1),
        makeBank(128, 0.17, 12, 3.1),
        makeBank(128, 0.12, 12, Number.POSITIVE_INFINITY),
      ];
  }
}

/** Most taps of any bank: samples need half as many silent frames on either side. */
export const MOST_TAPS = 128;

/** One interpolated value in plain TypeScript, as the kernel computes it; `position` in frames. The kernel's reference. */
export function interpolate(bank: SincBank, read: (frame: number) => number, position: number): number {
  const { floor } = Math;
  const index = floor(position);
  const exact = (position - index) * PHASES;
  const phase = floor(exact) & ((1 << PHASE_BITS) - 1);
  const rest = exact - floor(exact);
  const row = phase * bank.taps * 2;
  let sum = 0;
  for (let t = 0; t < bank.taps; t++) {
    const weight = (bank.rows[row + t] as number) + rest * (bank.rows[row + bank.taps + t] as number);
    sum += weight * read(index - (bank.taps / 2 - 1) + t);
  }
  return sum;
}
