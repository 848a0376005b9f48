import { fftOf, type Hertz } from "../audio";

const SIZE = 4096;
const BANDS = 24;
const LOWEST: Hertz = 60;

/** The levels of a sound in bands (dB), for stretches all along it: what tells whether two places are of one colour. */
export class Spectra {
  private readonly rows: Float64Array[];

  /** Of `[from, to)`, every `hop` frames. */
  constructor(
    channels: readonly Float32Array[],
    rate: Hertz,
    private readonly from: number,
    to: number,
    private readonly hop: number,
  ) {
    const count = Math.max(1, Math.floor((to - from) / hop) + 1);
    const edges = bandEdges(rate);
    this.rows = Array.from({ length: count }, (_, n) => bandsAt(channels, from + n * hop, edges));
  }

  private at(frame: number): Float64Array {
    const n = Math.round((frame - this.from) / this.hop);
    return this.rows[Math.min(this.rows.length - 1, Math.max(0, n))] as Float64Array;
  }

  /** How unlike the colours around two places are, in decibels. */
  distance(a: number, b: number): number {
    return unlikeness(this.at(a), this.at(b));
  }
}

/** The mean difference of two rows of band levels in decibels, whatever their loudness; faint bands count less. */
function unlikeness(x: Float64Array, y: Float64Array): number {
  let loudest = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < BANDS; i++) loudest = Math.max(loudest, x[i] as number, y[i] as number);
  let weights = 0;
  let mean = 0;
  const weightOf = (i: number) => 10 ** ((Math.max(x[i] as number, y[i] as number) - loudest) / 40);
  for (let i = 0; i < BANDS; i++) {
    weights += weightOf(i);
    mean += weightOf(i) * ((x[i] as number) - (y[i] as number));
  }
  mean /= weights;
  let sum = 0;
  for (let i = 0; i < BANDS; i++) sum += weightOf(i) * Math.abs((x[i] as number) - (y[i] as number) - mean);
  return sum / weights;
}

/** How unlike the colours around two places of a sound are, in decibels: the mean difference of their bands' levels, whatever their loudness. */
export function colourBetween(channels: readonly Float32Array[], rate: Hertz, a: number, b: number): number {
  const edges = bandEdges(rate);
  return unlikeness(bandsAt(channels, a, edges), bandsAt(channels, b, edges));
}

/** The first bin of each band, and the end of the last. */
function bandEdges(rate: Hertz): readonly number[] {
  const highest = Math.min(16000, rate * 0.45);
  return Array.from({ length: BANDS + 1 }, (_, b) =>
    Math.round((LOWEST * (highest / LOWEST) ** (b / BANDS) * SIZE) / rate),
  );
}

function bandsAt(channels: readonly Float32Array[], centre: number, edges: readonly number[]): Float64Array {
  const fft = fftOf(SIZE);
  const re = new Float64Array(SIZE);
  const im = new Float64Array(SIZE);
  const [left, right] = [channels[0] as Float32Array, channels[1]];
  for (let i = 0; i < SIZE; i++) {
    const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / SIZE);
    re[i] = (left[centre - SIZE / 2 + i] ?? 0) * window;
    if (right) im[i] = (right[centre - SIZE / 2 + i] ?? 0) * window;
  }
  fft.forward(re, im);
  return Float64Array.from({ length: BANDS }, (_, b) => {
    let sum = 1e-10;
    const from = edges[b] as number;
    const to = Math.max(from + 1, edges[b + 1] as number);
    for (let k = from; k < to; k++) {
      const j = SIZE - k;
      sum += (re[k] as number) ** 2 + (im[k] as number) ** 2 + (re[j] as number) ** 2 + (im[j] as number) ** 2;
    }
    return 10 * Math.log10(sum / (to - from));
  });
}
